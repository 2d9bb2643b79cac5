import fc from 'fast-check';
import { sized } from '../../../tests/helpers/size';
import { describe, expect, it } from 'vitest';
import { memberFor, open, plainDecide, why } from '../../../tests/helpers/plaindecide';
import { randomHistory, type Look } from '../../../tests/helpers/randomfloor';
import { CHANNELS } from '../channels';
import { FULL, usedLoad } from '../people/load';
import { ableFor, everybodyFull, ASK_AGAIN_SECONDS } from './able';
import type { Act } from './acts';
import { expand, reasonIn } from './decision';
import { heldBy, type FloorPerson, type WaitingVisit } from './floor';
import { usedIn } from './limits';
import { personPrefers, prefers, rulesOf } from './order';
import { decide } from './pass';
import type { Router } from './router';
import { stagesOf } from './stages';

const HISTORIES = sized({ quick: 150, usual: 300, long: 3000 });
const RUNS = { numRuns: sized({ quick: 25, usual: 40, long: 150 }) };
const over = (look: Look, ringAll = false, steps = 120) =>
  fc.assert(
    fc.property(fc.integer(), (seed) => {
      randomHistory(seed, steps, decide, look, ringAll);
    }),
    RUNS,
  );
/** What an act says, without the objects it carries. */
function told(act: Act): unknown {
  switch (act.do) {
    case 'offer':
      return ['offer', act.offerId, act.visit.id, act.person.id, act.groupId];
    case 'offer-over':
      return ['over', act.offerId, act.how];
    case 'ended':
      return ['ended', act.visit.id, act.how, act.onward];
    case 'took':
      return ['took', act.visit.id, act.personId];
    case 'stage':
      return ['stage', act.visit.id, act.stage, act.early];
    case 'began':
      return ['began', act.visit.id, act.because];
    case 'dial':
      return ['dial', act.visit.id, act.numberId];
    case 'timer':
      return ['timer', act.timer.kind, act.timer.id, act.at];
    case 'perform':
      return ['perform', act.visit.id, act.act.does];
    case 'call-over':
      return ['call-over', act.callId, act.how];
    case 'partner-answered':
      return ['answered', act.callId];
    case 'opened':
      return ['opened', act.visit.id, act.id];
    case 'choosing':
      return ['choosing', act.visit.id, act.until];
    case 'set-duty':
      return ['set-duty', act.personId, act.duty];
    case 'trail':
      return ['trail', expand(act.decision)];
  }
}

describe('the index', () => {
  it('decides as the plain rules do, over random histories', () => {
    let apart = 0;
    fc.assert(
      fc.property(fc.integer(), fc.boolean(), (seed, ringAll) => {
        // Of two reminders for one instant the plain way carries out what both allow with the first, so the order of
        // acts may differ there.
        let [lastDue, together] = [-1, false];
        const fast = randomHistory(
          seed,
          60,
          decide,
          (_router, now, _acts, event) => {
            if (event.type !== 'due') return;
            together ||= now === lastDue;
            lastDue = now;
          },
          ringAll,
        ).map(told);
        const plain = randomHistory(seed, 60, plainDecide, () => undefined, ringAll).map(told);
        if (!together && JSON.stringify(fast) !== JSON.stringify(plain)) expect(fast).toEqual(plain);
        apart += together ? 0 : 1;
      }),
      {
        numRuns: HISTORIES,
        examples: [
          [-767934419, false],
          [135479289, false],
        ],
      },
    );
    // Only histories in which the two could differ say something.
    expect(apart).toBeGreaterThan(HISTORIES / 2);
  });
  it('gives everybody the reason the rule gives', () => {
    over((router, now, acts) => {
      for (const act of acts) {
        if (act.do !== 'trail' || act.decision.kind === 'end') continue;
        const { decision } = act;
        for (const person of router.floor.people.values())
          expect(reasonIn(decision, person)?.why ?? null, `${person.id} for ${decision.visit.id}`).toBe(
            why(router, person, decision.visit, now),
          );
        const trail = expand(decision);
        expect(Object.values(trail.others).flat().length + (trail.chosen ? 1 : 0)).toBe(router.floor.people.size);
      }
    });
  });
  it('lets a stage come early exactly when everybody asked is full', () => {
    over((router, now) => {
      for (const visit of router.floor.waiting.values())
        if (open(visit) && stagesOf(visit)[visit.stage]?.early)
          expect(everybodyFull(router.floor, visit, now)).toBe(false);
    });
  });
});

describe('after every event', () => {
  it('no able pair is left', () => {
    over((router, now, _acts, _event, settled) => {
      // Two delays may pass at one instant, each with a timer of its own: what the second brings has not happened yet.
      if (!settled) return;
      expect(
        [...router.floor.waiting.values()]
          .filter((v) => open(v) && ableFor(router.floor, v, now).able.length > 0)
          .map((v) => v.id),
      ).toEqual([]);
    });
  });
  it('nobody is over 100 or a channel’s most, but for what wakes or is taken by hand', () => {
    const excused = new Map<string, Set<string>>();
    over((router, _now, acts, event) => {
      if (event.type === 'rest' && !event.resting)
        (excused.get(event.personId) ?? excused.set(event.personId, new Set()).get(event.personId))?.add(event.legId);
      for (const act of acts)
        if (act.do === 'took' && act.byHand)
          (excused.get(act.personId) ?? excused.set(act.personId, new Set()).get(act.personId))?.add(act.legId);
      const wrong = [...router.floor.people.values()].filter((person) => {
        const legs = [...person.open].filter(([id]) => !excused.get(person.id)?.has(id)).map(([, leg]) => leg);
        const held = [...legs, ...(person.pending ? [person.pending] : [])].filter((h) => !h.resting);
        const full =
          held.reduce((sum, h) => sum + h.cost, 0) > FULL ||
          CHANNELS.some((c) => held.filter((h) => h.channel === c).length > person.load[c].most);
        return full || person.used !== usedLoad(heldBy(person));
      });
      expect(wrong.map((p) => p.id)).toEqual([]);
    });
  });
  it('no limit of a group, a person or an outside number is exceeded, what is only offered or dialled included', () => {
    over((router, now, _acts, event) => {
      if (event.type === 'claim') return;
      const within = (
        thing: { limits: { atOnce: number | null; perHour: number | null; perDay: number | null } },
        uses: FloorPerson['uses'],
      ) => {
        expect(usedIn(uses.hour, now)).toBeLessThanOrEqual(thing.limits.perHour ?? Infinity);
        expect(usedIn(uses.day, now)).toBeLessThanOrEqual(thing.limits.perDay ?? Infinity);
      };
      for (const group of router.floor.groups.values()) {
        within(group, group.uses);
        const open = [...router.floor.people.values()]
          .flatMap((p) => [...p.open.values(), ...(p.pending ? [p.pending] : [])])
          .filter((h) => h.groupId === group.id).length;
        expect(group.uses.open).toBe(open);
        expect(open).toBeLessThanOrEqual(group.limits.atOnce ?? Infinity);
      }
      for (const partner of router.floor.partners.values()) {
        within(partner, partner.uses);
        const ringing = [...router.floor.waiting.values()].filter((v) => v.dials.size > 0).length;
        expect(partner.uses.open).toBe(ringing + router.floor.partnerCalls.size);
        for (const number of partner.numbers) {
          within(number, number.uses);
          expect(number.uses.open).toBeLessThanOrEqual(1);
        }
      }
    });
  });
  it('an offer stands on both sides, and everybody has one at the most', () => {
    over((router) => {
      const pending = [...router.floor.people.values()].flatMap((p) =>
        p.pending ? [[p.pending.offerId, p.id] as const] : [],
      );
      const offered = [...router.floor.waiting.values()].flatMap((v) =>
        v.offers.map((o) => [o.offerId, o.personId] as const),
      );
      expect(new Map(pending)).toEqual(new Map(offered));
    }, true);
  });
  it('nobody is offered what they passed on while somebody else is able, nor within 30 s', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const refusedAt = new Map<string, number>();
        randomHistory(seed, 120, decide, (_router, now, acts) => {
          for (const act of acts) {
            if (act.do === 'offer-over' && (act.how === 'declined' || act.how === 'missed'))
              refusedAt.set(`${act.visit.id} ${act.personId}`, now);
            const before = act.do === 'offer' ? refusedAt.get(`${act.visit.id} ${act.person.id}`) : undefined;
            if (act.do !== 'offer' || before === undefined) continue;
            expect(now - before).toBeGreaterThanOrEqual(ASK_AGAIN_SECONDS * 1000);
            const others = act.decision ? expand(act.decision).others : {};
            expect(
              [...(others['later-in-order'] ?? []), ...(others['took-another'] ?? [])].filter(
                (id) => !act.visit.refused.has(id),
              ),
            ).toEqual([]);
          }
        });
      }),
      RUNS,
    );
  });
  it('whoever was able and came later is kept with the rule that put them there', () => {
    let kept = 0;
    over((_router, _now, acts) => {
      for (const act of acts) {
        if (act.do !== 'offer' || !act.decision) continue;
        const trail = expand(act.decision);
        const later = trail.others['later-in-order'] ?? [];
        expect(Object.keys(trail.later ?? {}).sort()).toEqual([...later].sort());
        for (const rule of Object.values(trail.later ?? {}))
          expect([...rulesOf(act.visit), 'familiar', 'tie']).toContain(rule);
        kept += later.length;
      }
    });
    expect(kept).toBeGreaterThan(10);
  });
  it('a stage never makes a need stricter', () => {
    over((_router, _now, acts) => {
      for (const act of acts) {
        if (act.do !== 'stage') continue;
        for (const need of act.visit.needs) {
          const merged = act.visit.merged.find((m) => m.skillId === need.skillId);
          expect(need.atLeast).toBeLessThanOrEqual(merged?.atLeast ?? 0);
          expect(need.atMost ?? 5).toBeGreaterThanOrEqual(merged?.atMost ?? 5);
          expect(need.atLeast).toBeGreaterThanOrEqual(merged?.firmAtLeast ?? 0);
        }
      }
    });
  });
  it('every visit that began waits, or ended once', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        let last: Router | null = null;
        const acts = randomHistory(seed, 150, decide, (router) => {
          last = router;
        });
        const ended = acts.flatMap((a) => (a.do === 'ended' ? [a.visit.id] : []));
        expect(new Set(ended).size).toBe(ended.length);
        const began = acts.flatMap((a) => (a.do === 'began' ? [a.visit.id] : []));
        expect(new Set([...ended, ...((last as Router | null)?.floor.waiting.keys() ?? [])])).toEqual(new Set(began));
      }),
      RUNS,
    );
  });
  it('the same events give the same decisions', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const run = () => randomHistory(seed, 100, decide, () => undefined).map(told);
        expect(run()).toEqual(run());
      }),
      { numRuns: sized({ quick: 10, usual: 30, long: 60 }) },
    );
  });
});

describe('a round', () => {
  it('leaves no contact and person who would both rather have had each other', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        // Preferences are frozen at the round's beginning, so they are noted before its offers are made.
        let wishes = new Map<WaitingVisit, FloorPerson[]>();
        randomHistory(
          seed,
          80,
          (router, now) => {
            wishes = new Map(
              [...router.floor.waiting.values()].filter(open).map((v) => [
                v,
                ableFor(router.floor, v, now)
                  .able.map((p) => memberFor(router, p, v, now))
                  .sort((a, b) => prefers(router, v, a, b))
                  .map((m) => m.person),
              ]),
            );
            const before = router.acts.length;
            decide(router, now);
            const got = new Map<WaitingVisit, FloorPerson>();
            for (const act of router.acts.slice(before))
              if (act.do === 'offer' && !got.has(act.visit)) got.set(act.visit, act.person);
            const holds = new Map([...got].map(([v, p]) => [p, v]));
            const limited = [...router.floor.groups.values()].some((g) => g.reached.length > 0);
            if (limited) return;
            for (const [visit, list] of wishes) {
              const mine = got.get(visit);
              for (const person of list.slice(0, mine ? list.indexOf(mine) : list.length)) {
                const held = holds.get(person);
                expect(held && personPrefers(person, held, visit) < 0, `${visit.id} and ${person.id}`).toBe(true);
              }
            }
          },
          () => undefined,
        );
      }),
      RUNS,
    );
  });
});
