import { createHash } from 'node:crypto';
import type { OutsideAnswer, OutsideRequest } from '../src/core/bots/connectors';
import { hash32 } from '../src/core/chance';
import type { StandInSystem } from '../src/standins/system';

export type Hire = {
  readonly number: string;
  readonly customer: string;
  readonly instrument: string;
  readonly size: string;
  readonly cover: string;
  readonly nextPayment: string;
  readonly amount: number;
  readonly delivery: { readonly date: string; readonly window: string; readonly state: string };
};

const NAMES = [
  'Nerea Solas',
  'Mauro Ferro',
  'Jory Pennant',
  'Ida Lindqvarn',
  'Tobin Marlowe-Quist',
  'Rhea Castelmore',
  'Anselm Duarte-Finn',
  'Wren Holloway-Tarn',
  'Petros Vance-Alder',
  'Saoirse Dunmore-Vale',
];
const INSTRUMENTS = [
  'violin',
  'cello',
  'viola',
  'clarinet',
  'flute',
  'trumpet',
  'trombone',
  'saxophone',
  'snare drum',
  'digital piano',
  'guitar',
  'oboe',
];
const SIZES = ['full', '3/4', '1/2', '1/4'];
const pick = <T>(all: readonly T[], lot: number): T => all[lot % all.length] as T;
const dayAfter = (now: number, days: number): string => new Date(now + days * 86_400_000).toISOString().slice(0, 10);

/** Hire numbers that the desk knows: every 172nd from BH-200000. */
export const HIRES = 400;
const HIRE_STEP = 172;
export const hireNumber = (i: number): string => `BH-${200_000 + i * HIRE_STEP}`;

/** A hire by its number, in any spelling; null for one that is not known. Dates move with the day it is asked on. */
export function hireOf(spelled: string, now: number): Hire | null {
  const digits = spelled.replace(/\D/g, '');
  const i = (Number(digits) - 200_000) / HIRE_STEP;
  if (digits.length !== 6 || !Number.isInteger(i) || i < 0 || i >= HIRES) return null;
  const lot = hash32(digits);
  const instrument = pick(INSTRUMENTS, lot);
  return {
    number: hireNumber(i),
    customer: pick(NAMES, lot >>> 4),
    instrument,
    size: ['violin', 'cello', 'viola', 'guitar'].includes(instrument) ? pick(SIZES, lot >>> 8) : 'full',
    cover: lot % 3 === 0 ? 'none' : 'full cover',
    nextPayment: dayAfter(now, 1 + (lot % 28)),
    amount: 12 + (lot % 40),
    delivery: {
      date: dayAfter(now, lot % 6),
      window: pick(['9 to 11', '11 to 13', '14 to 16'], lot >>> 3),
      state: pick(['packed', 'on the van', 'planned'], lot >>> 5),
    },
  };
}

/**
 * The company's own system, simulated: `GET /hires/NUMBER`, `GET /hires/NUMBER/delivery`, `POST /searches` (a hire's number,
 * and parts), `POST /repairs` (number, day) and `POST /hires/NUMBER/end`. It says how many seconds its answer takes. The same request has the same answer, so that what
 * changes something is done once however often its key comes.
 */
export const createHireDesk = (): StandInSystem => ({
  name: 'Hire desk',
  about: `The hire company’s own system, simulated. It knows ${HIRES} hires, from ${hireNumber(0)} on.`,
  answer: (request, mood, now) => {
    const lot = hash32(`${request.path}|${request.body ?? ''}`);
    const seconds = mood === 'slow' ? 6 + (lot % 3) : 0.2 + (lot % 50) / 100;
    return {
      seconds,
      answer: mood === 'fails' ? { status: 503, body: { error: 'out of service' } } : reply(request, now),
    };
  },
});

function reply({ method, path, body, key }: OutsideRequest, now: number): OutsideAnswer {
  const [, thing = '', number = '', part = ''] = (path.split('?')[0] ?? '')
    .split('/')
    .map((p) => decodeURIComponent(p));
  const reference = createHash('sha256')
    .update(key ?? path)
    .digest('hex')
    .slice(0, 6)
    .toUpperCase();
  if (thing === 'hires' && method === 'GET') {
    const hire = hireOf(number, now);
    return hire
      ? { status: 200, body: part === 'delivery' ? { delivery: hire.delivery, instrument: hire.instrument } : { hire } }
      : { status: 404, body: { error: 'no such hire' } };
  }
  if (thing === 'hires' && part === 'end' && method === 'POST')
    return hireOf(number, now)
      ? { status: 201, body: { reference } }
      : { status: 404, body: { error: 'no such hire' } };
  if (thing === 'repairs' && method === 'POST') {
    const asked = JSON.parse(body ?? '{}') as { number?: unknown; day?: unknown };
    const hire = hireOf(String(asked.number ?? ''), now);
    if (!hire) return { status: 404, body: { error: 'no such hire' } };
    return hire.cover === 'none'
      ? { status: 409, body: { error: 'no cover' } }
      : {
          status: 201,
          body: { reference, day: typeof asked.day === 'string' && asked.day ? asked.day : dayAfter(now, 2) },
        };
  }
  if (thing === 'searches' && method === 'POST') {
    const asked = JSON.parse(body ?? '{}') as { hire?: { number?: unknown }; parts?: unknown };
    const hire = hireOf(String(asked.hire?.number ?? ''), now);
    if (!hire) return { status: 404, body: { found: [] } };
    const parts = Array.isArray(asked.parts) ? asked.parts : [];
    const { delivery, ...rest } = hire;
    return { status: 200, body: { found: [parts.includes('delivery') ? { ...rest, delivery } : rest] } };
  }
  return { status: 405, body: { error: 'not something the hire desk does' } };
}
