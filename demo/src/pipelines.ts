/** A saved pipeline of the demo, with one sentence that says what to notice. */
export interface DemoPipeline {
  readonly name: string;
  readonly pipeline: string;
  readonly note: string;
  readonly parameters?: Record<string, unknown>;
  readonly guards?: { readonly memoryBytes?: number };
}

/** In the order of the job; each runs on the demo data. */
export const pipelines: readonly DemoPipeline[] = [
  {
    name: 'All huts',
    pipeline: 'from huts\norder by @.name\n',
    note: 'A pipeline begins with from; the margin shows that all 120 huts go through.',
  },
  {
    name: 'Late bookings of large parties',
    pipeline: 'from bookings\nwhere @.status == "late" && @.party.size >= 4\norder by @.arrivesOn desc\nlimit 20\n',
    note: 'Every booking is read to find twenty: build the index that the plan suggests, and compare.',
  },
  {
    name: 'Huts with a stove and a drying room',
    pipeline: 'from huts\nwhere includes_all(@.fittings, ["stove", "drying room"])\nselect @.name, @.region, @.fittings\n',
    note: 'includes_all asks that an array holds each of several values.',
  },
  {
    name: 'Bookings with a dear night',
    pipeline:
      'from bookings\nwhere @.nights[?@.fee > 60 && @.bunks >= 6]\nselect @.id, @.hutId, max_of(@.nights[*].fee) as dearest\norder by @.dearest desc\nlimit 25\n',
    note: 'The condition in brackets asks for one night that is dear and large at once.',
  },
  {
    name: 'Bookings with a note',
    pipeline: 'from bookings\nwhere @.note != null && exists(@.note)\nselect @.id, @.party.lead as lead, @.note\n',
    note: 'A missing note and a note of null are two things; exists tells them apart.',
  },
  {
    name: 'Deep page of reports',
    pipeline:
      '# the worst first, the newest of equal ones first\nfrom reports\norder by @.severity desc, @.filedAt desc\noffset 60000\nlimit 20\n',
    note: 'Its memory guard is too small for the sort; an index on the two keys makes the sort needless.',
    guards: { memoryBytes: 2 * 1024 * 1024 },
  },
];
