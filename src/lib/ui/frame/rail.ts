/** The screens of the rail, with the key that follows `g`. */
export const RAIL: readonly { name: string; href: string; key: string }[] = [
  { name: 'Today', href: '/', key: 't' },
  { name: 'Receive', href: '/receive', key: 'r' },
  { name: 'Build', href: '/build', key: 'b' },
  { name: 'Ship', href: '/ship', key: 's' },
  { name: 'On hand', href: '/on-hand', key: 'o' },
  { name: 'Trace', href: '/trace', key: 'a' },
  { name: 'Recall', href: '/recall', key: 'c' },
  { name: 'Quality', href: '/quality', key: 'q' },
  { name: 'Service', href: '/service', key: 'v' },
  { name: 'Setup', href: '/setup', key: 'u' }
];
