import { network } from '../../../demo/dist/network.js';
import { atMost } from './atMost.mjs';

const made = Object.fromEntries(network(1).map(({ name, document }) => [name, document]));
const byText = (a, b) => (a < b ? -1 : a > b ? 1 : 0);

const members = 20_000;
const booking = (i) => {
  const one = made.bookings(i);
  if (one.memberId !== undefined) one.memberId = made.members((i * 7_919) % members).id;
  return one;
};

/** The demo's bookings: objects in objects, arrays of objects, few values missing; by two and a half times as many members. */
export const bookings = {
  name: 'bookings',
  make: (count) => ({
    documents: Array.from({ length: count }, (_, i) => booking(i)),
    partners: { members: Array.from({ length: members }, (_, i) => made.members(i)) },
  }),
  questions: [
    {
      title: 'filter, two conditions',
      goal: 1.5,
      pipeline: 'where @.status == "late" && @.party.size >= 4',
      loop: (documents) => {
        const rows = [];
        for (const one of documents) if (one.status === 'late' && typeof one.party.size === 'number' && one.party.size >= 4) rows.push(one);
        return rows;
      },
    },
    {
      title: 'filter, text inside',
      goal: 1.5,
      pipeline: 'where contains(@.party.lead, "ra") && @.channel != "web"',
      loop: (documents) => {
        const rows = [];
        for (const one of documents)
          if (typeof one.party.lead === 'string' && one.party.lead.includes('ra') && one.channel !== 'web') rows.push(one);
        return rows;
      },
    },
    {
      title: 'filter, an element that meets two conditions',
      goal: 1.5,
      pipeline: 'where @.nights[?(@.fee > 60 && @.bunks >= 6)]',
      loop: (documents) => {
        const rows = [];
        for (const one of documents) {
          for (const night of one.nights) {
            if (typeof night.fee === 'number' && night.fee > 60 && typeof night.bunks === 'number' && night.bunks >= 6) {
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
      pipeline: 'where search(@.party.lead, "^(Una|Lio|Jory) [A-M][a-z]*d")',
      loop: (documents) => {
        const pattern = /^(?:Una|Lio|Jory) [A-M][a-z]*d/u;
        const rows = [];
        for (const one of documents) if (typeof one.party.lead === 'string' && pattern.test(one.party.lead)) rows.push(one);
        return rows;
      },
    },
    {
      title: 'group, few groups',
      goal: 2,
      pipeline: 'group by @.status measure n = count(), people = sum(@.party.size)\norder by @.status',
      loop: (documents) => {
        const groups = new Map();
        for (const { status, party } of documents) {
          let group = groups.get(status);
          if (group === undefined) groups.set(status, (group = { status, n: 0, people: 0 }));
          group.n++;
          if (typeof party.size === 'number') group.people += party.size;
        }
        return [...groups.values()].sort((a, b) => byText(a.status, b.status));
      },
    },
    {
      title: 'group, 20,000 groups',
      goal: 2,
      pipeline: 'where @.memberId\ngroup by @.memberId measure n = count(), last = max(@.arrivesOn)\norder by @.memberId',
      loop: (documents) => {
        const groups = new Map();
        for (const { memberId, arrivesOn } of documents) {
          if (memberId === undefined) continue;
          const group = groups.get(memberId);
          if (group === undefined) groups.set(memberId, { memberId, n: 1, last: arrivesOn });
          else {
            group.n++;
            if (arrivesOn > group.last) group.last = arrivesOn;
          }
        }
        return [...groups.values()].sort((a, b) => byText(a.memberId, b.memberId));
      },
    },
    {
      title: 'group, two keys',
      goal: 2,
      pipeline: 'group by @.hutId, @.arrivesOn measure n = count(), people = sum(@.party.size)',
      loop: (documents) => {
        const huts = new Map();
        const rows = [];
        for (const { hutId, arrivesOn, party } of documents) {
          let days = huts.get(hutId);
          if (days === undefined) huts.set(hutId, (days = new Map()));
          let group = days.get(arrivesOn);
          if (group === undefined) {
            group = { hutId, arrivesOn, n: 0 };
            days.set(arrivesOn, group);
            rows.push(group);
          }
          group.n++;
          // Of nothing there is no sum.
          if (typeof party.size === 'number') group.people = (group.people ?? 0) + party.size;
        }
        return rows;
      },
    },
    {
      title: 'unnest + group',
      goal: 2,
      pipeline: 'unnest @.nights as night\ngroup by @.hutId measure fees = sum(@.night.fee), nights = count()\norder by @.hutId',
      loop: (documents) => {
        const groups = new Map();
        for (const { hutId, nights } of documents) {
          for (const night of nights) {
            let group = groups.get(hutId);
            if (group === undefined) groups.set(hutId, (group = { hutId, fees: 0, nights: 0 }));
            if (typeof night.fee === 'number') group.fees += night.fee;
            group.nights++;
          }
        }
        return [...groups.values()].sort((a, b) => byText(a.hutId, b.hutId));
      },
    },
    {
      title: 'count distinct',
      goal: 2,
      pipeline: 'group by @.hutId measure members = count_distinct(@.memberId)\norder by @.hutId',
      loop: (documents) => {
        const groups = new Map();
        for (const { hutId, memberId } of documents) {
          let set = groups.get(hutId);
          if (set === undefined) groups.set(hutId, (set = new Set()));
          if (memberId !== undefined && memberId !== null) set.add(memberId);
        }
        return [...groups].map(([hutId, set]) => ({ hutId, members: set.size })).sort((a, b) => byText(a.hutId, b.hutId));
      },
    },
    {
      title: "join + group by the partner's field",
      goal: 2,
      pipeline: 'join members as m on m.id == @.memberId\ngroup by @.m.home.town as town measure n = count()\norder by @.town',
      loop: (documents, { members }) => {
        const byId = new Map(members.map((member) => [member.id, member]));
        const groups = new Map();
        for (const { memberId } of documents) {
          const member = byId.get(memberId);
          if (member === undefined) continue;
          const town = member.home?.town;
          groups.set(town, (groups.get(town) ?? 0) + 1);
        }
        const rows = [...groups].map(([town, n]) => (town === undefined ? { n } : { town, n }));
        return rows.sort((a, b) => (a.town === undefined ? 1 : b.town === undefined ? -1 : byText(a.town, b.town)));
      },
    },
    {
      title: 'join, rows kept',
      goal: 2,
      pipeline: 'join members as m on m.id == @.memberId\nselect @.id, @.hutId, @.arrivesOn, @.m.name as name',
      loop: (documents, { members }) => {
        const byId = new Map(members.map((member) => [member.id, member]));
        const rows = [];
        for (const { id, hutId, arrivesOn, memberId } of documents) {
          const member = byId.get(memberId);
          if (member !== undefined) rows.push({ id, hutId, arrivesOn, name: member.name });
        }
        return rows;
      },
    },
    {
      title: 'gather join',
      goal: 2,
      pipeline:
        'from members\ngather join bookings as stays on stays.memberId == @.id\nselect @.id, length(@.stays) as n, @.stays[0].hutId as first',
      loop: (documents, { members }) => {
        const byMember = new Map();
        for (const one of documents) {
          if (one.memberId === undefined) continue;
          const there = byMember.get(one.memberId);
          if (there === undefined) byMember.set(one.memberId, [one]);
          else there.push(one);
        }
        return members.map(({ id }) => {
          const stays = byMember.get(id);
          return stays === undefined ? { id, n: 0 } : { id, n: stays.length, first: stays[0].hutId };
        });
      },
    },
    {
      title: 'select with a computed field',
      goal: 2,
      pipeline: 'select @.id, @.hutId, @.party.size * 2 as twice',
      loop: (documents) =>
        documents.map(({ id, hutId, party: { size } }) => (typeof size === 'number' ? { id, hutId, twice: size * 2 } : { id, hutId })),
    },
    {
      title: 'best 3 of each',
      goal: 2,
      pipeline: 'rank as place partition by @.hutId order by @.bookedAt desc\nwhere @.place <= 3\nselect @.hutId, @.place, @.id',
      loop: (documents) => {
        const huts = new Map();
        documents.forEach((one, at) => {
          let best = huts.get(one.hutId);
          if (best === undefined) huts.set(one.hutId, (best = []));
          const before = ({ one: other }) => other.bookedAt >= one.bookedAt;
          // Ranks count those that are better: all that tie with the third are kept.
          if (best.length >= 3 && best[2].one.bookedAt > one.bookedAt) return;
          let i = best.length;
          while (i > 0 && !before(best[i - 1])) i--;
          best.splice(i, 0, { one, at });
          let end = best.length;
          while (end > 3 && best[end - 1].one.bookedAt < best[2].one.bookedAt) end--;
          best.length = end;
        });
        const kept = [];
        for (const best of huts.values()) {
          let place = 0;
          best.forEach(({ one, at }, i) => {
            if (i === 0 || best[i - 1].one.bookedAt !== one.bookedAt) place = i + 1;
            kept.push({ at, row: { hutId: one.hutId, place, id: one.id } });
          });
        }
        return kept.sort((a, b) => a.at - b.at).map(({ row }) => row);
      },
    },
    {
      title: 'top 20 by two keys',
      goal: 2,
      pipeline: 'order by @.arrivesOn desc, @.bookedAt\nlimit 20',
      loop: (documents) => atMost(20, documents, (a, b) => byText(b.arrivesOn, a.arrivesOn) || byText(a.bookedAt, b.bookedAt)),
    },
    {
      title: 'sort by two keys',
      goal: 1.3,
      pipeline: 'order by @.hutId, @.bookedAt desc',
      loop: (documents) => [...documents].sort((a, b) => byText(a.hutId, b.hutId) || byText(b.bookedAt, a.bookedAt)),
    },
  ],
};
