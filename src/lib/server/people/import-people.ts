import { numberKey } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import { badCells } from '../kernel/imports/report.ts';
import { partsOf, saysYes, type ImportedTable } from '../kernel/imports/import-table.ts';
import { Person } from './schemas.ts';
import { putPerson, readPeople } from './write-people.ts';

/**
 * A table of people with their roles. It carries no passwords: who is new is given one in Setup →
 * People.
 */
export const peopleTable = (actor: Actor): ImportedTable => ({
  columns: [
    { key: 'login', says: 'sign-in', required: true, also: ['login', 'sign-in name'] },
    { key: 'name', says: 'name', required: true },
    { key: 'roles', says: 'roles', required: true, also: ['role'] },
    { key: 'active', says: 'active' }
  ],
  key: 'login',
  rows: 'one',
  keep: async (tx, login, [row]) => {
    const { name, roles, active } = row!.cells;
    const people = await readPeople(tx);
    const old = people.find((one) => numberKey(one.login) === numberKey(login));
    const wanted = Person.safeParse({
      name,
      roles: partsOf(roles?.replaceAll(',', ';')).map((role) => role.toLowerCase()),
      active: saysYes(active || undefined, old?.active ?? true)
    });
    if (!wanted.success) throw badCells(wanted.error.issues);
    const { created } = await putPerson(tx, actor, login, wanted.data);
    if (created) return 'new';
    const same =
      old!.name === wanted.data.name &&
      old!.active === wanted.data.active &&
      old!.roles.join() === wanted.data.roles.join();
    return same ? 'same' : 'changed';
  }
});
