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

/** The pages beside one of those, some for whoever keeps the company's data alone. */
export const parts: Record<'shelf' | 'people', { to: string; title: string; keeps?: boolean }[]> = {
  shelf: [
    { to: '/shelf', title: 'Products' },
    { to: '/shelf/media', title: 'Media and tools' },
    { to: '/shelf/systems', title: 'Systems' },
  ],
  people: [
    { to: '/people', title: 'Accounts' },
    { to: '/people/crews', title: 'Crews and machines', keeps: true },
    { to: '/people/calendars', title: 'Calendar subscriptions', keeps: true },
  ],
}
