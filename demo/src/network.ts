import { vectorOf } from '@zesty-sieve/core';
import { detail } from './details.ts';
import { Random } from './random.ts';
import * as words from './words.ts';

/** A document of the demo, before it is written as JSON. */
export type DemoDocument = Record<string, unknown>;

export interface DemoCollection {
  readonly name: string;
  readonly count: number;
  readonly document: (i: number) => DemoDocument;
}

const hutCount = 120;
const memberCount = 8_000;
const day = 86_400_000;
const firstDay = Date.UTC(2025, 0, 1);

const id = (prefix: string, i: number, digits: number) => `${prefix}-${String(i + 1).padStart(digits, '0')}`;
const hutId = (i: number) => id('h', i, 3);
const memberId = (i: number) => id('m', i, 5);
const date = (ms: number) => new Date(ms).toISOString().slice(0, 10);
const dateTime = (ms: number) => new Date(ms).toISOString().replace('.000', '');

function name(random: Random): string {
  return `${random.pick(words.firstNames)} ${random.pick(words.lastNames)}`;
}

function position(random: Random): object {
  const coordinate = (from: number, span: number) => Math.round((from + random.next() * span) * 1e5) / 1e5;
  return { type: 'Point', coordinates: [coordinate(9.1, 1.7), coordinate(46.2, 1.1)] };
}

function hut(i: number): DemoDocument {
  const random = new Random(1_000 + i);
  const altitudeM = random.whole(900, 3_150);
  const first = words.hutFirst[i % words.hutFirst.length];
  const document: DemoDocument = {
    id: hutId(i),
    name: `${first} ${words.hutLast[Math.floor(i / words.hutFirst.length) % words.hutLast.length]}`,
    region: random.pick(words.regions),
    altitudeM,
    // A few were typed in as text once.
    bunks: i % 17 === 5 ? String(random.whole(8, 90)) : random.whole(8, 90),
    fittings: random.some(words.fittings, random.whole(2, 7)),
    ratings: [2022, 2023, 2024, 2025]
      .slice(random.whole(0, 3))
      .map((year) => ({ year, score: random.whole(20, 50) / 10, votes: random.whole(3, 400) })),
    position: position(random),
    fee: { night: random.whole(18, 62), reviewed: date(firstDay + random.whole(0, 500) * day) },
    wardens: Array.from({ length: random.whole(0, 3) }, () => ({ name: name(random), since: random.whole(2004, 2025) })),
  };
  if (random.chance(0.35)) document.winterRoom = { bunks: random.whole(2, 12), key: random.pick(['at the hut', 'in the valley', 'open']) };
  if (i === 41) document.ratings = [];
  if (i === 88) document.region = null;
  return document;
}

function booking(i: number): DemoDocument {
  const random = new Random(500_000 + i);
  const size = Math.min(14, 1 + Math.floor(-Math.log(1 - random.next()) * 2.6));
  const arrives = firstDay + random.whole(0, 690) * day;
  // Few huts take most of the bookings.
  const hutNumber = Math.floor(random.next() ** 1.7 * hutCount);
  const fee = 18 + (hutNumber % 45);
  const document: DemoDocument = {
    id: id('b', i, 5),
    hutId: hutId(hutNumber),
    memberId: memberId(random.whole(0, memberCount - 1)),
    status: random.weighted({ arrived: 82, late: 7.5, cancelled: 6, expected: 4, lost: 0.5 }),
    party: { size, lead: name(random), ages: Array.from({ length: size }, () => random.whole(4, 79)) },
    nights: Array.from({ length: random.whole(1, 5) }, (_, night) => ({
      date: date(arrives + night * day),
      bunks: size,
      fee: fee + (random.chance(0.2) ? 6 : 0),
      extras: random.chance(0.4) ? random.some(words.extras, random.whole(1, 3)) : [],
    })),
    arrivesOn: date(arrives),
    bookedAt: dateTime(arrives - random.whole(1, 120) * day - random.whole(0, 86_399) * 1_000),
    channel: random.chance(0.03) ? random.some(words.channels, 2) : random.pick(words.channels),
  };
  if (random.chance(0.22)) document.note = random.pick(words.notes);
  else if (random.chance(0.02)) document.note = null;
  if (random.chance(0.004)) document.party = { ...(document.party as object), size: String(size) };
  if (random.chance(0.003)) delete document.memberId;
  if (i === 31_337) document.note = Array.from({ length: 900 }, () => random.pick(words.notes)).join(' ');
  if (i === 20_202) {
    document.nights = Array.from({ length: 2_000 }, (_, night) => ({
      date: date(arrives + (night % 300) * day),
      bunks: 1,
      fee,
      extras: [],
    }));
  }
  return document;
}

function member(i: number): DemoDocument {
  const random = new Random(9_000_000 + i);
  const document: DemoDocument = {
    id: memberId(i),
    name: name(random),
    home: { town: random.pick(words.towns), position: position(random) },
    joinedOn: date(Date.UTC(1998, 0, 1) + random.whole(0, 10_000) * day),
    newsletter: random.chance(0.6),
  };
  if (random.chance(0.06))
    document.guide = { since: random.whole(2001, 2025), subjects: random.some(words.guideSubjects, random.whole(1, 3)) };
  if (random.chance(0.01)) document.home = null;
  if (random.chance(0.002)) delete document.joinedOn;
  return document;
}

function report(i: number): DemoDocument {
  const random = new Random(20_000_000 + i);
  const topics = random.some(words.topics, random.whole(1, 3));
  const kinds = [random.pick(['weather', 'trail', 'wildlife'] as const), random.pick(['weather', 'trail', 'wildlife'] as const)];
  const text = [
    ...new Set([
      ...kinds.flatMap((kind) => [random.pick(words.sentences[kind]), random.pick(words.sentences[kind])]),
      random.pick(words.sentences.closing),
    ]),
  ];
  // Of a sequence of their own, so that all else of a report is as it was.
  const seen = new Random(90_000_000 + i);
  const details = Array.from({ length: seen.whole(0, 2) }, () => detail(seen));
  const document: DemoDocument = {
    id: id('r', i, 5),
    hutId: hutId(random.whole(0, hutCount - 1)),
    filedAt: dateTime(firstDay + random.whole(0, 690 * 86_400) * 1_000),
    severity: Math.min(5, 1 + Math.floor(random.next() ** 2.2 * 5)),
    headline: text[0]!.replace(/[.;,].*$/, ''),
    text: [...text.slice(0, random.whole(2, 6)), ...details].join(' '),
    topics,
    hazards: random.chance(0.3)
      ? Array.from({ length: random.whole(1, 2) }, () => ({ kind: random.pick(words.hazardKinds), severity: random.whole(1, 5) }))
      : [],
    position: position(random),
    filedBy: random.chance(0.97) ? memberId(random.whole(0, memberCount - 1)) : null,
  };
  if (random.chance(0.01)) delete document.severity;
  document.textVector = vectorOf(`${document.headline as string}. ${document.text as string}`).map((one) => Math.round(one * 1e5) / 1e5);
  return document;
}

function route(i: number): DemoDocument {
  const random = new Random(70_000_000 + i);
  const stops = Array.from({ length: random.whole(2, 6) }, () => hutId(random.whole(0, hutCount - 1)));
  return {
    id: id('t', i, 3),
    grade: random.weighted({ T1: 10, T2: 35, T3: 35, T4: 15, T5: 5 }),
    legs: stops
      .slice(1)
      .map((toHutId, leg) => ({ fromHutId: stops[leg], toHutId, km: random.whole(25, 190) / 10, ascentM: random.whole(80, 1_450) })),
    description: `${random.pick(words.sentences.trail)} ${random.pick(words.sentences.weather)}`,
  };
}

/** The Alder Pass hut network: five collections, the same documents every time. */
export function network(scale: number): readonly DemoCollection[] {
  const times = (count: number) => Math.max(1, Math.round(count * scale));
  return [
    { name: 'huts', count: hutCount, document: hut },
    { name: 'members', count: memberCount, document: member },
    { name: 'routes', count: 400, document: route },
    { name: 'bookings', count: times(50_000), document: booking },
    { name: 'reports', count: times(84_000), document: report },
  ];
}
