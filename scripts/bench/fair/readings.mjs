import { atMost } from './atMost.mjs';

const byText = (a, b) => (a < b ? -1 : a > b ? 1 : 0);
const byNumber = (a, b) => a - b;
const devices = 20_000;
const kinds = ['flow', 'humidity', 'level', 'power', 'pressure', 'temperature', 'wind'];
const words = ['drift', 'stable', 'spike', 'calibrated', 'slow', 'cold', 'restarted', 'noisy'];

/** A reading in every fifth of which something is missing or of another type: flat, with numbers where bookings have texts. */
function reading(i) {
  const mixed = Math.imul(i + 1, 0x9e3779b1) >>> 0;
  const one = {
    id: i,
    device: (i * 7_919) % devices,
    kind: kinds[mixed % kinds.length],
    level: ((mixed >>> 5) % 10_000) / 100,
    at: 1_760_000_000_000 + ((mixed >>> 3) % 31_536_000) * 1_000,
    zone: (mixed >>> 9) % 150,
    site: `s-${(mixed >>> 11) % 900}`,
    text: `${words[mixed % 8]} ${words[(mixed >>> 4) % 8]} after ${words[(mixed >>> 8) % 8]}`,
    marks: Array.from({ length: (mixed >>> 13) % 6 }, (_, k) => ({ code: (mixed >>> k) % 40, weight: ((mixed >>> (k + 2)) % 90) / 10 })),
  };
  if (i % 10 === 3) delete one.level;
  if (i % 10 === 7) one.level = String(one.level);
  if (i % 50 === 11) one.zone = null;
  return one;
}
const device = (i) => ({ serial: i, maker: `maker ${i % 60}`, model: { name: `m${i % 700}`, year: 2000 + (i % 25) } });

/** Readings of devices: many small flat documents, numbers for keys, values of other types now and then. */
export const readings = {
  name: 'readings',
  make: (count) => ({
    documents: Array.from({ length: count }, (_, i) => reading(i)),
    partners: { devices: Array.from({ length: devices }, (_, i) => device(i)) },
  }),
  questions: [
    {
      title: 'filter, two conditions',
      goal: 1.5,
      pipeline: 'where @.level > 60 && @.kind == "wind"',
      loop: (documents) => {
        const rows = [];
        for (const one of documents) if (typeof one.level === 'number' && one.level > 60 && one.kind === 'wind') rows.push(one);
        return rows;
      },
    },
    {
      title: 'filter, text inside',
      goal: 1.5,
      pipeline: 'where contains(@.text, "after spike")',
      loop: (documents) => {
        const rows = [];
        for (const one of documents) if (typeof one.text === 'string' && one.text.includes('after spike')) rows.push(one);
        return rows;
      },
    },
    {
      title: 'filter, an element that meets two conditions',
      goal: 1.5,
      pipeline: 'where @.marks[?(@.code == 7 && @.weight > 5)]',
      loop: (documents) => {
        const rows = [];
        for (const one of documents) {
          for (const mark of one.marks) {
            if (mark.code === 7 && typeof mark.weight === 'number' && mark.weight > 5) {
              rows.push(one);
              break;
            }
          }
        }
        return rows;
      },
    },
    {
      title: 'filter, pattern',
      goal: 3,
      isPattern: true,
      pipeline: 'where search(@.text, "(slow|cold) after [a-m]+t")',
      loop: (documents) => {
        const pattern = /(?:slow|cold) after [a-m]+t/u;
        const rows = [];
        for (const one of documents) if (typeof one.text === 'string' && pattern.test(one.text)) rows.push(one);
        return rows;
      },
    },
    {
      title: 'group, few groups',
      goal: 2,
      pipeline: 'group by @.kind measure n = count(), mean = avg(@.level)\norder by @.kind',
      loop: (documents) => {
        const groups = new Map();
        for (const { kind, level } of documents) {
          let group = groups.get(kind);
          if (group === undefined) groups.set(kind, (group = { n: 0, sum: 0, of: 0 }));
          group.n++;
          if (typeof level === 'number') {
            group.sum += level;
            group.of++;
          }
        }
        const rows = [...groups].map(([kind, { n, sum, of }]) => (of === 0 ? { kind, n } : { kind, n, mean: sum / of }));
        return rows.sort((a, b) => byText(a.kind, b.kind));
      },
    },
    {
      title: 'group, 20,000 groups',
      goal: 2,
      pipeline: 'group by @.device measure n = count(), last = max(@.at)\norder by @.device',
      loop: (documents) => {
        const groups = new Map();
        for (const { device, at } of documents) {
          const group = groups.get(device);
          if (group === undefined) groups.set(device, { device, n: 1, last: at });
          else {
            group.n++;
            if (at > group.last) group.last = at;
          }
        }
        return [...groups.values()].sort((a, b) => byNumber(a.device, b.device));
      },
    },
    {
      title: 'group, two keys',
      goal: 2,
      pipeline: 'group by @.zone, @.kind measure n = count(), most = max(@.at)',
      loop: (documents) => {
        const zones = new Map();
        const rows = [];
        for (const { zone, kind, at } of documents) {
          let inZone = zones.get(zone);
          if (inZone === undefined) zones.set(zone, (inZone = new Map()));
          const group = inZone.get(kind);
          if (group === undefined) {
            const row = { zone, kind, n: 1, most: at };
            inZone.set(kind, row);
            rows.push(row);
          } else {
            group.n++;
            if (at > group.most) group.most = at;
          }
        }
        return rows;
      },
    },
    {
      title: 'unnest + group',
      goal: 2,
      pipeline: 'unnest @.marks as mark\ngroup by @.mark.code as code measure n = count(), most = max(@.mark.weight)\norder by @.code',
      loop: (documents) => {
        const groups = new Map();
        for (const { marks } of documents) {
          for (const { code, weight } of marks) {
            const group = groups.get(code);
            if (group === undefined) groups.set(code, { code, n: 1, most: weight });
            else {
              group.n++;
              if (weight > group.most) group.most = weight;
            }
          }
        }
        return [...groups.values()].sort((a, b) => byNumber(a.code, b.code));
      },
    },
    {
      title: 'count distinct',
      goal: 2,
      pipeline: 'group by @.kind measure devices = count_distinct(@.device)\norder by @.kind',
      loop: (documents) => {
        const groups = new Map();
        for (const { kind, device } of documents) {
          let set = groups.get(kind);
          if (set === undefined) groups.set(kind, (set = new Set()));
          set.add(device);
        }
        return [...groups].map(([kind, set]) => ({ kind, devices: set.size })).sort((a, b) => byText(a.kind, b.kind));
      },
    },
    {
      title: "join + group by the partner's field",
      goal: 2,
      pipeline: 'join devices as d on d.serial == @.device\ngroup by @.d.model.name as model measure n = count()\norder by @.model',
      loop: (documents, { devices: partners }) => {
        const bySerial = new Map(partners.map((one) => [one.serial, one]));
        const groups = new Map();
        for (const { device: serial } of documents) {
          const partner = bySerial.get(serial);
          if (partner === undefined) continue;
          const { name } = partner.model;
          groups.set(name, (groups.get(name) ?? 0) + 1);
        }
        return [...groups].map(([model, n]) => ({ model, n })).sort((a, b) => byText(a.model, b.model));
      },
    },
    {
      title: 'join, rows kept',
      goal: 2,
      pipeline:
        'where @.kind == "wind" || @.kind == "flow"\njoin devices as d on d.serial == @.device\nselect @.id, @.at, @.d.maker as maker',
      loop: (documents, { devices: partners }) => {
        const bySerial = new Map(partners.map((one) => [one.serial, one]));
        const rows = [];
        for (const { id, at, kind, device: serial } of documents) {
          if (kind !== 'wind' && kind !== 'flow') continue;
          const partner = bySerial.get(serial);
          if (partner !== undefined) rows.push({ id, at, maker: partner.maker });
        }
        return rows;
      },
    },
    {
      title: 'gather join',
      goal: 2,
      pipeline:
        'from devices\ngather join readings as seen on seen.device == @.serial\nselect @.serial, length(@.seen) as n, @.seen[0].at as first',
      loop: (documents, { devices: partners }) => {
        const byDevice = new Map();
        for (const one of documents) {
          const there = byDevice.get(one.device);
          if (there === undefined) byDevice.set(one.device, [one]);
          else there.push(one);
        }
        return partners.map(({ serial }) => {
          const seen = byDevice.get(serial);
          return seen === undefined ? { serial, n: 0 } : { serial, n: seen.length, first: seen[0].at };
        });
      },
    },
    {
      title: 'select with a computed field',
      goal: 2,
      pipeline: 'compute tenth = @.level / 10\nselect @.id, @.site, @.tenth',
      loop: (documents) =>
        documents.map(({ id, site, level }) => (typeof level === 'number' ? { id, site, tenth: level / 10 } : { id, site })),
    },
    {
      title: 'best 3 of each',
      goal: 2,
      pipeline: 'row number as place partition by @.site order by @.at desc\nwhere @.place <= 3\nselect @.site, @.place, @.id',
      loop: (documents) => {
        const sites = new Map();
        documents.forEach((one, at) => {
          let best = sites.get(one.site);
          if (best === undefined) sites.set(one.site, (best = []));
          if (best.length === 3 && best[2].one.at >= one.at) return;
          let i = best.length;
          while (i > 0 && best[i - 1].one.at < one.at) i--;
          best.splice(i, 0, { one, at });
          if (best.length > 3) best.pop();
        });
        const kept = [];
        for (const best of sites.values())
          best.forEach(({ one, at }, i) => kept.push({ at, row: { site: one.site, place: i + 1, id: one.id } }));
        return kept.sort((a, b) => a.at - b.at).map(({ row }) => row);
      },
    },
    {
      title: 'top 20 by two keys',
      goal: 2,
      pipeline: 'order by @.site, @.at desc\nlimit 20',
      loop: (documents) => atMost(20, documents, (a, b) => byText(a.site, b.site) || byNumber(b.at, a.at)),
    },
    {
      title: 'sort by two keys',
      goal: 1.3,
      pipeline: 'order by @.site, @.at desc',
      loop: (documents) => [...documents].sort((a, b) => byText(a.site, b.site) || byNumber(b.at, a.at)),
    },
  ],
};
