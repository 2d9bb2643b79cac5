import { TZDate } from '@date-fns/tz';
import type { EventBody, LaneEvent } from '../src/core/events';
import type { Need } from '../src/core/routing/needs';
import { COMPANY } from './company';

/** How a contact came: what it and its bot did, each so long after it started, and where it went from there. */
export type Came = {
  readonly started: Extract<EventBody, { readonly type: 'contact.started' }>;
  readonly before: readonly { readonly after: number; readonly body: EventBody }[];
  readonly entered: {
    readonly after: number;
    readonly queueId: string;
    readonly needs: readonly Need[];
    readonly priority: number;
    readonly because: string;
  } | null;
};
/** Contacts of a week by the hour of the day in which they came, Saturdays apart. */
export type Week = ReadonlyMap<string, readonly Came[]>;

/** The hour of the day by the company's clock. */
export function hourOf(at: number): string {
  const local = new TZDate(at, COMPANY.zone);
  return `${local.getDay() === 6 ? 'Saturday' : 'weekday'} ${local.getHours()}`;
}

/** Listens to a week that is lived through, for how contacts came in it; those still coming at its end are not in it. */
export function createWeek(): { readonly hear: (events: readonly LaneEvent[]) => void; readonly week: () => Week } {
  const week = new Map<string, Came[]>();
  const coming = new Map<
    string,
    { readonly at: number; readonly came: Came & { before: Came['before'][number][]; entered: Came['entered'] } }
  >();
  const hear = (e: LaneEvent): void => {
    if (e.type === 'contact.started') {
      const { seq: _seq, v: _v, floorAt, realAt: _realAt, ...started } = e;
      const came = { started, before: [], entered: null };
      coming.set(e.contactId, { at: floorAt, came });
      const hour = hourOf(floorAt);
      const others = week.get(hour);
      if (others) others.push(came);
      else week.set(hour, [came]);
      return;
    }
    const one = 'contactId' in e ? coming.get(e.contactId) : undefined;
    if (!one) return;
    const after = e.floorAt - one.at;
    switch (e.type) {
      case 'visit.began':
        one.came.entered = {
          after,
          queueId: e.queueId,
          needs: e.handOver ?? [],
          priority: e.priority,
          because: e.because,
        };
        coming.delete(e.contactId);
        break;
      case 'contact.ended':
        one.came.before.push({ after, body: { type: e.type, contactId: '', how: e.how } });
        coming.delete(e.contactId);
        break;
      case 'message.written':
      case 'bot.heard':
      case 'bot.finished':
      case 'contact.language': {
        const { seq: _seq, v: _v, floorAt: _floorAt, realAt: _realAt, ...body } = e;
        one.came.before.push({ after, body });
      }
    }
  };
  return {
    hear: (events) => events.forEach(hear),
    week: () => {
      const still = new Set<Came>([...coming.values()].map((one) => one.came));
      return new Map([...week].map(([hour, came]) => [hour, came.filter((one) => !still.has(one))]));
    },
  };
}
