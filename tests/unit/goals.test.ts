import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { readProfile } from '../../src/data/dutyprofiles';
import { readQueue } from '../../src/data/queuesettings';
import { handsIn, queueInput } from '../helpers/hands';
import { makeWorld, MORNING, type World } from '../helpers/world';

let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());
const { lead, bertil, odile, ready, chat: chatAbout, take } = handsIn(() => w);
/** A customer who waits in Repairs. */
const chat = (from = 'guest-1') => chatAbout(from, ['a repair', '204816', 'the bridge snapped']);
const lane = (queueId: string) => w.services.floorView.view(lead()).lanes.find((l) => l.queueId === queueId);
const waitingIn = () => w.services.floorView.view(lead()).lanes.find((l) => l.waiting.length > 0);

/** Sets a queue's goal on the website chat. */
function goal(queueId: string, percent: number, seconds: number): void {
  const queue = readQueue(w.db, queueId);
  w.services.queues.save(lead(), queueInput(queue, { goals: { ...queue?.goals, chat: { percent, seconds } } }));
}

describe('a queue is judged by its own goal', () => {
  it('a wait past it is late on the strip, the lane and the contact, and already counts as missed', () => {
    const customer = chat();
    const queueId = waitingIn()?.queueId ?? '';
    const seconds = waitingIn()?.waiting[0]?.goalSeconds ?? 0;
    w.at(MORNING + seconds * 1000);
    expect(w.services.strip(lead())).toMatchObject({ waiting: 1, late: 0, inGoal: null });
    w.at(MORNING + seconds * 1000 + 1);
    expect(w.services.strip(lead())).toMatchObject({ waiting: 1, late: 1, inGoal: 0 });
    expect(lane(queueId)).toMatchObject({ share: 0, standing: 'missed' });
    expect(customer.state()).toBe('waiting');
  });
  it('its percent says whether a share is met, near or missed, on the Floor and in Review alike', () => {
    ready(odile());
    chat('guest-1');
    const queueId = waitingIn()?.queueId ?? '';
    take(odile());
    for (let i = 2; i <= 4; i++) {
      chat(`guest-${i}`);
      if (i < 4) take(odile());
    }
    // Three were taken at once; the fourth waits beyond its goal: three of four.
    w.at(MORNING + 10 * 60_000);
    const standings = [70, 80, 90].map((percent) => {
      goal(queueId, percent, 45);
      return lane(queueId)?.standing;
    });
    expect(lane(queueId)?.share).toBe(0.75);
    expect(standings).toEqual(['met', 'near', 'missed']);
    // Review counts what is over, by the same goals: all three were in time.
    const reviewed = w.services.review.view(lead(), {}).perQueue.find((q) => q.id === queueId);
    expect(reviewed).toMatchObject({ inGoal: 1, wanted: 0.9, standing: 'met' });
  });
  it('a visit keeps the goal it began with', () => {
    chat();
    const queueId = waitingIn()?.queueId ?? '';
    const before = waitingIn()?.waiting[0]?.goalSeconds ?? 0;
    goal(queueId, 80, before + 300);
    expect(lane(queueId)?.waiting[0]?.goalSeconds).toBe(before);
    expect(lane(queueId)?.goals.find((g) => g.channel === 'chat')?.seconds).toBe(before + 300);
  });
});

describe('figures hold to the reader’s own teams and queues', () => {
  it('the strip of a supervisor counts neither waits nor answers of queues that their people do not take', () => {
    const front = readProfile(w.db, 'profile_front');
    w.services.duty.saveProfile(lead(), { ...front, rows: front?.rows.filter((r) => r.queueId !== 'queue_repairs') });
    chat();
    w.at(MORNING + 30 * 60_000);
    expect(w.services.strip(lead())).toMatchObject({ waiting: 1, late: 1, inGoal: 0 });
    expect(w.services.strip(bertil())).toMatchObject({ waiting: 0, late: 0, inGoal: null });
    ready(odile());
    take(odile());
    // What is over counts the same way: somebody was answered late, but not by anybody of theirs.
    expect(w.services.strip(lead())).toMatchObject({ waiting: 0, late: 0, inGoal: 0 });
    expect(w.services.strip(bertil())).toMatchObject({ inGoal: null });
  });
});
