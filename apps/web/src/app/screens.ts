/** The screens, by address, as the band over them and Jump name them. */
export const screens = [
  ['/bench', 'Bench'],
  ['/data', 'Data'],
  ['/indexes', 'Indexes'],
  ['/search', 'Search'],
  ['/publish', 'Publish'],
  ['/runs', 'Runs'],
] as const;
