import type { Right } from '../../core/people/rights.ts';
import type { Db } from '../kernel/db/client.ts';

/** One step of setting an empty Earmark up. */
export interface FirstStep {
  name: string;
  /** What it is for, and what comes of it. */
  says: string;
  /** How many there are; 0 where it is still to be done. */
  done: number;
  href: string;
  /** The table a file of them is brought in as. */
  table: string | null;
  right: Right;
}

/** What there is already. */
interface There {
  booked: boolean;
  company: number;
  places: number;
  people: number;
  partners: number;
  products: number;
}

/**
 * What an empty Earmark still needs, in the order it is done; null once anything is booked.
 */
export async function readFirstRun(db: Db): Promise<FirstStep[] | null> {
  const [there] = await db<There[]>`
    SELECT EXISTS (SELECT FROM event) AS booked,
      (SELECT count(*)::int FROM company WHERE name <> 'Our company') AS company,
      (SELECT count(*)::int FROM place) AS places,
      (SELECT count(*)::int FROM person WHERE password_hash IS NOT NULL) AS people,
      (SELECT count(*)::int FROM partner) AS partners,
      (SELECT count(*)::int FROM product) AS products
  `;
  return !there || there.booked ? null : stepsOf(there);
}

const stepsOf = (there: There): FirstStep[] => [
  {
    name: 'Our company',
    says: 'Name, address and GS1 prefix, as they stand on labels and letters',
    done: there.company,
    href: '/setup/company',
    table: null,
    right: 'edit.catalogue'
  },
  {
    name: 'Places',
    says: 'Docks, racks, lines: where goods lie, each at its site',
    done: there.places,
    href: '/setup/places',
    table: 'places',
    right: 'edit.catalogue'
  },
  {
    name: 'People',
    says: 'Who books what, each with their roles and a password of their own',
    // Whoever looks at this is one of them.
    done: there.people - 1,
    href: '/setup/people',
    table: 'people',
    right: 'edit.people'
  },
  {
    name: 'Partners',
    says: 'Who you buy from and who you ship to',
    done: there.partners,
    href: '/setup/partners',
    table: 'partners',
    right: 'edit.catalogue'
  },
  {
    name: 'Products',
    says: 'What is received, made and shipped, and how each is marked',
    done: there.products,
    href: '/setup/products',
    table: 'products',
    right: 'edit.catalogue'
  },
  {
    name: 'Opening stock',
    says: 'What lies here already; with it the ledger begins',
    done: 0,
    href: '/opening',
    table: 'openings',
    right: 'book.opening'
  }
];
