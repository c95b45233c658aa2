/** Roles a person or a token may have, and the rights that come with each. */
export const ROLES = [
  'receiver',
  'builder',
  'shipper',
  'quality',
  'service',
  'coordinator',
  'auditor',
  'administrator'
] as const;
export type Role = (typeof ROLES)[number];

export type Right =
  | 'read'
  | 'draft'
  | 'allot'
  | 'book.receive'
  | 'book.opening'
  | 'book.build'
  | 'book.ship'
  | 'book.move'
  | 'count'
  | 'book.identify'
  | 'book.correct'
  | 'book.scrap'
  | 'book.repack'
  | 'book.reverse'
  | 'book.return'
  | 'book.revalue'
  | 'see.costs'
  | 'read.security'
  | 'service'
  | 'recall'
  | 'capture'
  | 'trace'
  | 'floor'
  | 'test'
  | 'promise'
  | 'approve'
  | 'edit.spec'
  | 'certify'
  | 'amend'
  | 'print'
  | 'decide.quality'
  | 'import'
  | 'edit.orders'
  | 'edit.catalogue'
  | 'edit.people';

const RIGHTS: Record<Role, readonly Right[]> = {
  receiver: [
    'read',
    'trace',
    'capture',
    'draft',
    'allot',
    'book.receive',
    'book.reverse',
    'book.return',
    'book.move',
    'count',
    'book.identify',
    'print',
    'import',
    'edit.orders'
  ],
  builder: [
    'read',
    'trace',
    'draft',
    'allot',
    'book.build',
    'book.scrap',
    'book.repack',
    'book.reverse',
    'floor',
    'book.move',
    'count',
    'book.identify',
    'print',
    'import',
    'edit.orders'
  ],
  shipper: [
    'read',
    'trace',
    'draft',
    'book.ship',
    'book.reverse',
    'book.return',
    'promise',
    'certify',
    'book.move',
    'count',
    'book.identify',
    'print',
    'import',
    'edit.orders'
  ],
  quality: [
    'read',
    'trace',
    'capture',
    'draft',
    'decide.quality',
    'approve',
    'book.return',
    'recall',
    'test',
    'edit.spec',
    'certify',
    'book.correct',
    'book.scrap',
    'book.reverse',
    'floor',
    'amend',
    'book.move',
    'count',
    'print',
    'import'
  ],
  service: [
    'read',
    'trace',
    'draft',
    'service',
    'book.return',
    'book.move',
    'book.reverse',
    'test',
    'print',
    'import'
  ],
  coordinator: [
    'read',
    'trace',
    'capture',
    'draft',
    'allot',
    'book.receive',
    'book.opening',
    'book.build',
    'book.ship',
    'book.move',
    'count',
    'book.identify',
    'book.correct',
    'book.scrap',
    'book.repack',
    'book.reverse',
    'book.return',
    'book.revalue',
    'see.costs',
    'service',
    'recall',
    'floor',
    'amend',
    'decide.quality',
    'approve',
    'test',
    'promise',
    'edit.spec',
    'certify',
    'print',
    'import',
    'edit.orders',
    'edit.catalogue'
  ],
  // Reads all, changes nothing: not even a draft.
  auditor: ['read', 'trace', 'see.costs', 'read.security'],
  administrator: [
    'read',
    'trace',
    'see.costs',
    'import',
    'edit.catalogue',
    'edit.people',
    'read.security'
  ]
};

/** Whether any of the roles carries the right. */
export const mayDo = (roles: readonly Role[], right: Right): boolean =>
  roles.some((role) => RIGHTS[role].includes(right));

/** The roles that carry a right, for the sentence that refuses somebody. */
export const rolesWith = (right: Right): Role[] =>
  ROLES.filter((role) => RIGHTS[role].includes(right));
