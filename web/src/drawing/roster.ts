export const keyOf = (of: { job: string; task?: string; id?: string }): string =>
  `${of.job}/${of.task ?? of.id ?? ''}`
