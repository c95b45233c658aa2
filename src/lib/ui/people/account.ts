import type { Account } from '../../core/people/account.ts';

/** What every part of the account page is given. */
export interface PartProps {
  account: Account;
  /** Something changed: the page is read again. */
  onchanged: () => Promise<void>;
}
