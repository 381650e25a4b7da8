/** The pages of the head of the site, in its order. */
export const pages: { to: string; title: string; edits?: boolean }[] = [
  { to: '/jobs', title: 'Jobs' },
  { to: '/roster', title: 'Roster' },
  { to: '/records', title: 'Records', edits: true },
  { to: '/shelf', title: 'Shelf', edits: true },
  { to: '/bench', title: 'Bench' },
  { to: '/stock', title: 'Stock', edits: true },
  { to: '/house', title: 'Standards' },
  { to: '/people', title: 'People', edits: true },
]
