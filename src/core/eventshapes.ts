import type { EventBody, EventType, LaneEvent } from './events';

/**
 * How events are kept. The body of an event is the list of its values in the order given here, without names, the contact
 * it is about, or its type: these stand in columns of their own. A type's number and the order of its fields never change;
 * a new field goes to the end, and what an older event lacks is absent. Another shape takes another version and an
 * upcaster.
 */
type FieldsOf<T extends EventType> = Exclude<keyof Extract<EventBody, { type: T }>, 'type' | 'contactId'>;
/** Only the first event of a contact says which it is: all others point at it. */
type Field<T extends EventType> = FieldsOf<T> | (T extends 'contact.started' ? 'contactId' : never);
type Shape<T extends EventType> = { readonly code: number; readonly fields: readonly Field<T>[] };

export const SHAPES: { readonly [T in EventType]: Shape<T> } = {
  'contact.started': {
    code: 1,
    fields: ['contactId', 'doorId', 'channel', 'customerId', 'language', 'botId', 'botVersion', 'open'],
  },
  'message.written': { code: 2, fields: ['from', 'personId', 'lineId'] },
  'bot.heard': { code: 3, fields: ['lineId', 'choiceId', 'understood', 'intent'] },
  'bot.asked': { code: 4, fields: ['number', 'connectorId'] },
  'bot.texted': { code: 5, fields: ['lineId', 'when', 'sent'] },
  'contact.language': { code: 6, fields: ['language'] },
  'value.set': { code: 7, fields: ['name'] },
  'bot.started': { code: 8, fields: ['botId', 'botVersion'] },
  'bot.finished': { code: 9, fields: ['how', 'lineId', 'because', 'path'] },
  'visit.began': {
    code: 10,
    fields: [
      'visitId',
      'queueId',
      'channel',
      'settingsVersion',
      'placedAt',
      'needs',
      'priority',
      'goalSeconds',
      'because',
      'entry',
      'handOver',
      'passed',
      'familiarId',
      'callback',
      'message',
    ],
  },
  'visit.staged': { code: 11, fields: ['visitId', 'stage', 'early'] },
  'visit.opened': { code: 12, fields: ['visitId', 'to', 'id'] },
  'visit.asked': { code: 13, fields: ['visitId', 'until'] },
  'visit.ended': { code: 14, fields: ['visitId', 'how'] },
  'partner.dialled': { code: 15, fields: ['visitId', 'callId', 'partnerId', 'numberId'] },
  'partner.answered': { code: 16, fields: ['visitId', 'callId'] },
  'partner.ended': { code: 17, fields: ['visitId', 'callId', 'how', 'counted'] },
  'callback.changed': { code: 18, fields: ['callbackId', 'state'] },
  'offer.made': { code: 19, fields: ['visitId', 'offerId', 'personId', 'acceptBy', 'groupId'] },
  'offer.ended': { code: 20, fields: ['visitId', 'offerId', 'personId', 'how'] },
  'leg.began': { code: 21, fields: ['visitId', 'legId', 'personId', 'groupId', 'byHand', 'broughtIn'] },
  'leg.wrapping': { code: 22, fields: ['legId', 'personId', 'passedOn'] },
  'leg.filed': { code: 23, fields: ['legId', 'personId', 'outcome'] },
  'leg.ended': { code: 24, fields: ['legId', 'personId', 'outcome', 'handleSeconds', 'inFront'] },
  'contact.ended': { code: 25, fields: ['how', 'mood'] },
  'person.duty': { code: 26, fields: ['personId', 'duty', 'reason'] },
  'person.reach': { code: 27, fields: ['personId', 'reachable'] },
  'settings.changed': { code: 28, fields: ['version', 'kind', 'id'] },
  'leg.front': { code: 29, fields: ['legId', 'personId', 'from', 'to', 'realFrom', 'realTo'] },
  'visit.told': { code: 30, fields: ['visitId', 'seconds'] },
  'message.left': { code: 31, fields: ['queueId', 'needs'] },
  'bot.mended': { code: 32, fields: ['botVersion'] },
  'customer.joined': { code: 33, fields: ['tieId', 'customerId', 'otherId', 'how', 'byPersonId', 'inContactId'] },
  'customer.parted': { code: 34, fields: ['tieId', 'byPersonId'] },
  'leg.line': { code: 36, fields: ['legId', 'personId', 'line'] },
  'mood.said': { code: 35, fields: ['ofContactId', 'says', 'personId'] },
};

const TYPES = new Map<number, EventType>(
  (Object.entries(SHAPES) as [EventType, Shape<EventType>][]).map(([type, { code }]) => [code, type]),
);
export const codeOfType = (type: EventType): number => SHAPES[type].code;
/** Throws RangeError for a number that this code does not know. */
export function typeOfCode(code: number): EventType {
  const type = TYPES.get(code);
  if (!type) throw new RangeError(`events of type ${code} are newer than this code knows`);
  return type;
}

/** The version in which events are written now. */
export const EVENT_VERSION = 2;

/** An event as it is kept, with the id of its contact beside it. `realAt` is null where both clocks said the same. */
export type StoredEvent = {
  readonly seq: number;
  readonly code: number;
  readonly v: number;
  readonly floorAt: number;
  readonly realAt: number | null;
  readonly contactId: string | null;
  readonly body: string | null;
};

/** An event's values in order, as JSON; what is absent or null at the end is left out. Null for none. */
export function packedBody(event: EventBody): string | null {
  const named = event as unknown as Readonly<Record<string, unknown>>;
  const values: unknown[] = [];
  let said = 0;
  for (const name of SHAPES[event.type].fields) {
    const value = named[name] ?? null;
    values.push(value);
    if (value !== null) said = values.length;
  }
  values.length = said;
  return said === 0 ? null : JSON.stringify(values);
}

/** Fields that may be absent, which reads otherwise than null does. */
const MAY_LACK: ReadonlySet<string> = new Set([
  'broughtIn',
  'inFront',
  'intent',
  'path',
  'entry',
  'handOver',
  'passed',
  'familiarId',
  'callback',
  'message',
  'groupId',
  'byHand',
  'open',
  'mood',
]);

function unpacked(type: EventType, contactId: string | null, body: string | null): EventBody {
  const values = body === null ? [] : (JSON.parse(body) as unknown[]);
  const event: Record<string, unknown> = { type };
  if (contactId !== null && type !== 'contact.started') event.contactId = contactId;
  SHAPES[type].fields.forEach((name, i) => {
    const value = values[i] ?? null;
    if (value !== null || !MAY_LACK.has(name)) event[name] = value;
  });
  return event as EventBody;
}

/**
 * Brings a stored event up to the present shape. Version 1 kept names and all in its body, and a message's own id.
 * Throws RangeError on a version or a type from the future.
 */
export function upcast(stored: StoredEvent): LaneEvent {
  const { seq, v, floorAt, body } = stored;
  if (v > EVENT_VERSION) throw new RangeError(`event ${seq} has version ${v}, newer than this code knows`);
  const type = typeOfCode(stored.code);
  const read: EventBody = v === 1 ? fromFirst(type, stored) : unpacked(type, stored.contactId, body);
  // A copy of what may be any of thirty shapes costs more than writing it down.
  return Object.assign(read, { seq, v: EVENT_VERSION, floorAt, realAt: stored.realAt ?? floorAt });
}

function fromFirst(type: EventType, { body, contactId }: StoredEvent): EventBody {
  const { messageId: _own, ...kept } = JSON.parse(body ?? '{}') as { readonly messageId?: string };
  return { ...(contactId === null ? {} : { contactId }), ...kept, type } as EventBody;
}
