/** A saved pipeline of the demo, with one sentence that says what to notice. */
export interface DemoPipeline {
  readonly name: string;
  readonly pipeline: string;
  /** The SQL in which it is written, where it is; `pipeline` is empty then. */
  readonly sql?: string;
  readonly note: string;
  readonly parameters?: Record<string, unknown>;
  readonly guards?: { readonly memoryBytes?: number };
  /** Whether others read it as a source. */
  readonly view?: boolean;
  /** Whether its rows are kept, and made anew after each change of what it reads. */
  readonly isKept?: boolean;
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
    name: 'Bunks kept as text',
    pipeline:
      'from huts\ncompute perBed = round(@.fee.night / @.bunks, 2)\norder by @.perBed desc nulls first\nselect @.name, @.bunks, @.perBed\n',
    note: 'In a few huts the bunks are text, with which one cannot reckon: the run says in how many, and mends it with one click.',
  },
  {
    name: 'Channel, alone or in a list',
    pipeline: 'from bookings\nwhere @.channel == "web" || includes(@.channel, "web")\nselect @.id, @.channel\nlimit 50\n',
    note: 'A field that is sometimes a text and sometimes an array needs both forms; look at what each condition keeps alone.',
  },
  {
    name: 'Best rated huts',
    pipeline:
      'from huts\nwhere length(@.ratings) >= 3\norder by avg_of(@.ratings[*].score) desc, @.name\nselect @.name, @.region, avg_of(@.ratings[*].score) as score, length(@.ratings) as ratings\nlimit 10\n',
    note: 'An order can go by what an array comes to; huts of the same score stay in the order of their names.',
  },
  {
    name: 'Huts near the pass',
    pipeline:
      'from huts\ncompute metres = round(distance(@.position, [:lon, :lat]), 0)\nwhere @.metres < 40000\norder by @.metres\nselect @.name, @.region, @.metres\n',
    note: 'The bar over the editor takes the place; move it a little and see other huts come first.',
    parameters: { lon: 9.5, lat: 46.6 },
  },
  {
    name: 'Arrivals in a week',
    pipeline:
      'from bookings\nwhere @.arrivesOn >= :monday && @.arrivesOn < date_add(:monday, 1, "week")\ncompute weekday = date_part("weekday", @.arrivesOn)\nselect @.id, @.hutId, @.arrivesOn, @.weekday, @.party.size as people\norder by @.arrivesOn, @.id\n',
    note: 'Dates are text in order, so a range of them can be served by an index; the chart shows the week.',
    parameters: { monday: '2025-07-07' },
  },
  {
    name: 'Reports that warn of the way',
    pipeline:
      'from reports\nwhere contains(@.text, "bridge") && @.severity >= 3\nselect @.id, @.filedAt, @.severity, @.headline\norder by @.filedAt desc\nlimit 30\n',
    note: 'The cheap condition is tested first, whichever is written first; the plan says how many documents came to each.',
  },
  {
    name: 'Reports for some words',
    pipeline:
      'from reports\nbest 10 by relevance([@.headline, @.text], :words, "english", [2, 1]) as score\nselect @.headline, @.score, excerpt(@.text, :words, "english") as passage\n',
    note: 'A headline that has the words counts twice; the text index finds the ten without looking at every report.',
    parameters: { words: 'broken bridge at the stream' },
  },
  {
    name: 'Reports that mean the same',
    pipeline:
      'from reports\nbest 10 by cosine_similarity(@.textVector, vector_of(:words)) as score effort 60\nselect @.headline, @.score\n',
    note: 'Other words for the same thing are found by their vectors; effort says how many candidates are looked at, and the answer that it is approximate.',
    parameters: { words: 'the footbridge is gone' },
  },
  {
    name: 'Words and meaning together',
    pipeline:
      'from reports\nwhere @.severity >= 2\nbest 10 by relevance([@.headline, @.text], :words, "english"), cosine_similarity(@.textVector, vector_of(:words)) as score\nselect @.headline, @.severity, @.score\n',
    note: 'Two rankings are fused by the places that reports have in each: what both find comes first.',
    parameters: { words: 'broken bridge at the stream' },
  },
  {
    name: 'Reports nearest a place',
    pipeline:
      'from reports\nwhere distance(@.position, :place) < 3000\norder by distance(@.position, :place)\nlimit 20\nselect @.headline, @.filedAt, round(distance(@.position, :place)) as metres\n',
    note: 'The place index looks at what lies in the circle alone.',
    parameters: { place: { type: 'Point', coordinates: [9.41, 46.34] } },
  },
  {
    name: 'A hundred bookings at random',
    pipeline: 'from bookings\nsample 100 seed 7\nomit @.nights, @.note\n',
    note: 'The same seed gives the same hundred as long as the data is the same.',
  },
  {
    name: 'late_parties',
    pipeline:
      'from bookings\nwhere @.status == "late" && @.party.size >= 4\nselect @.id, @.hutId, @.memberId, @.arrivesOn, @.party, @.nights\n',
    note: 'A view: other pipelines read it with from late_parties, planned through to the bookings.',
    view: true,
  },
  {
    name: 'Bookings with their hut and member',
    pipeline:
      'from late_parties\nleft join huts as hut on hut.id == @.hutId\nleft join members as member on member.id == @.memberId\nselect @.id, @.arrivesOn, @.party.size as people, @.hut.name as hut, @.hut.region as region, @.member.name as member\norder by @.arrivesOn desc\nlimit 50\n',
    note: 'The plan says how many rows met a hut and how many met none; the join form shows both sides.',
  },
  {
    name: 'Three best rated huts of each region',
    pipeline:
      'from huts\ncompute score = avg_of(@.ratings[*].score)\nrank as place partition by @.region order by @.score desc\nwhere @.place <= 3\nselect @.region, @.place, @.name, @.score\norder by @.region, @.place\n',
    note: 'A rank keeps ties: a region can have more than three, and the ranks say why.',
  },
  {
    name: 'Fees by hut and month',
    pipeline:
      'from bookings\nwhere @.status == "arrived"\nunnest @.nights as night\ncompute month = substring(@.night.date, 0, 7), fee = @.night.fee * @.night.bunks\ngroup by @.hutId, @.month\n  measure fees = sum(@.fee), nights = count()\nleft join huts as hut on hut.id == @.hutId\ngroup by @.hut.region as region, @.month\n  measure fees = sum(@.fees), nights = sum(@.nights)\norder by @.month, @.region\n',
    note: 'The margin widens where nights become rows and narrows where they are grouped; the chart shows the seasons.',
  },
  {
    name: 'fees_by_hut_and_month',
    pipeline:
      'from bookings\nwhere @.status == "arrived"\nunnest @.nights as night\ncompute month = substring(@.night.date, 0, 7), fee = @.night.fee * @.night.bunks\ngroup by @.hutId, @.month\n  measure fees = sum(@.fee), nights = count()\n',
    note: 'A view whose rows are kept: Fees by hut and month begins with the same lines, and is answered from them.',
    view: true,
    isKept: true,
  },
  {
    name: 'What late parties paid',
    pipeline:
      '# parties of a given size that arrived late, and what they paid, by hut\nfrom bookings\nwhere @.status == "late" && @.party.size >= :least\nleft join huts as hut on hut.id == @.hutId\nunnest @.nights as night\ncompute fee = @.night.fee * @.party.size\ngroup by @.hut.name as hut\n  measure fees = sum(@.fee), parties = count()\norder by @.fees desc, @.hut\nlimit 15\n',
    note: 'Move a line with Alt and the arrows, switch one off with Ctrl and /, and see what it is there for.',
    parameters: { least: 4 },
  },
  {
    name: 'Where to stay',
    pipeline:
      'from huts\nwhere @.altitudeM <= :highest && :filter\norder by @.fee.night, @.name\nselect @.name, @.region, @.altitudeM, @.bunks, @.fee.night as night\n',
    note: 'A parameter may stand for a condition: :filter holds for every row until one is given. This pipeline is published.',
    parameters: { highest: 3000 },
  },
  {
    name: 'Huts of a region',
    pipeline: 'from huts\nwhere @.region == :region && :filter\norder by @.name\nselect @.id, @.name, @.altitudeM, @.bunks\n',
    note: 'Published as huts-of-a-region: callers give a region, and a condition of their own.',
    parameters: { region: 'Low Tarn' },
  },
  {
    name: 'Three highest huts of each region, in SQL',
    pipeline: '',
    sql: 'WITH ranked AS (\n  SELECT region, name, altitudeM, RANK() OVER (PARTITION BY region ORDER BY altitudeM DESC) AS place\n  FROM huts\n)\nSELECT region, place, name, altitudeM\nFROM ranked\nWHERE place <= 3\nORDER BY region, place, name\n',
    note: 'A rank within each region in SQL; below stands the pipeline that it became, line for clause.',
  },
  {
    name: 'Huts as one JSON answer',
    pipeline: '',
    sql: "SELECT region, JSON_ARRAYAGG(JSON_OBJECT('hut': name, 'bunks': bunks) ORDER BY name) AS huts\nFROM huts\nGROUP BY region\nORDER BY region\n",
    note: 'A row for each region, with its huts as JSON inside it.',
  },
  {
    name: 'Deep page of reports',
    pipeline:
      '# the worst first, the newest of equal ones first\nfrom reports\norder by @.severity desc, @.filedAt desc\noffset 60000\nlimit 20\n',
    note: 'Its memory guard is too small for the sort; an index on the two keys makes the sort needless.',
    guards: { memoryBytes: 2 * 1024 * 1024 },
  },
];

/** A publication of the demo: who asks what, within which limits. */
export const publications = [
  {
    name: 'huts-of-a-region',
    pipeline: 'Huts of a region',
    title: 'Huts of a region',
    parameters: [
      { name: 'region', kind: 'text', label: 'Region' },
      {
        name: 'filter',
        kind: 'condition',
        label: 'Only huts where',
        fields: [
          { path: '@.altitudeM', label: 'Metres', type: 'number' },
          { path: '@.bunks', label: 'Bunks', type: 'number' },
        ],
      },
    ],
    cache: { freshSeconds: 60, staleSeconds: 600 },
  },
  {
    name: 'where-to-stay',
    pipeline: 'Where to stay',
    title: 'Where to stay',
    parameters: [
      { name: 'highest', kind: 'number', label: 'Highest, metres', least: 900, greatest: 3_200, default: 3_000 },
      {
        name: 'filter',
        kind: 'condition',
        label: 'Only huts where',
        fields: [
          { path: '@.region', label: 'Region', type: 'text' },
          { path: '@.bunks', label: 'Bunks', type: 'number', unit: 'people', note: 'As many as sleep in one night.' },
          { path: '@.fee.night', label: 'Fee for a night', type: 'number' },
          { path: '@.winterRoom', label: 'Winter room' },
        ],
      },
    ],
    cache: { until: 'change' },
    columns: [
      { path: '@.name', label: 'Hut' },
      { path: '@.region', label: 'Region' },
      { path: '@.altitudeM', label: 'Metres' },
      { path: '@.bunks', label: 'Bunks' },
      { path: '@.night', label: 'Fee' },
    ],
  },
] as const;
