/**
 * Every error a person can meet: a stable code, the HTTP status handlers give it, and how to mend it.
 * Services throw `LaneError`; across bundles errors are told apart by `code`, never by `instanceof`.
 */
export const ERRORS = {
  'sign-in-needed': { status: 401, mend: 'Sign in and try again.' },
  'sign-in-failed': { status: 401, mend: 'Check the address and the password.' },
  'slow-down': { status: 429, mend: 'Wait a moment, then try again.' },
  'not-allowed': { status: 403, mend: 'Ask an owner or a lead for the right to do this.' },
  'cross-site': { status: 403, mend: 'Open Usher Lane itself and try there.' },
  'wrong-host': {
    status: 421,
    mend: 'Use the address by which Usher Lane is reached; LANE_URL and LANE_HOSTS name it.',
  },
  'key-needed': { status: 401, mend: 'Send a key of the door: Authorization: Bearer …' },
  'bad-token': { status: 401, mend: 'Use the token that came with the contact.' },
  'not-found': { status: 404, mend: 'Check the id; it may have been deleted.' },
  'not-valid': { status: 422, mend: 'Correct what is named and send it again.' },
  'broken-json': { status: 400, mend: 'Send one JSON object with quoted names.' },
  'too-large': { status: 413, mend: 'Send less at a time.' },
  'changed-meanwhile': { status: 409, mend: 'Look at both versions and choose.' },
  'not-now': { status: 409, mend: 'Look at the present state and choose again.' },
  closed: { status: 409, mend: 'Start a new contact.' },
  'cannot-publish': { status: 422, mend: 'Mend the lines named, then publish again.' },
  'tests-fail': { status: 422, mend: 'Mend the script or the test, or say why it is published all the same.' },
  'not-kept': { status: 503, mend: 'Nothing was changed. Tell whoever runs Usher Lane what this says.' },
  'broken-inside': { status: 500, mend: 'Try again; if it happens again, tell whoever runs Usher Lane.' },
} as const;

export type ErrorCode = keyof typeof ERRORS;
export type FieldFault = { readonly where: string; readonly what: string };

export class LaneError extends Error {
  readonly code: ErrorCode;
  readonly faults: readonly FieldFault[];
  constructor(code: ErrorCode, sentence: string, faults: readonly FieldFault[] = [], options: ErrorOptions = {}) {
    super(sentence, options);
    this.name = 'LaneError';
    this.code = code;
    this.faults = faults;
  }
}

export type ErrorBody = { error: { code: ErrorCode; message: string; mend: string; faults: readonly FieldFault[] } };

const isCode = (code: unknown): code is ErrorCode => typeof code === 'string' && code in ERRORS;

/** What a person is told about any thrown thing: known errors as they are, all else without its insides. */
export function describeError(thrown: unknown): { status: number; body: ErrorBody } {
  if (thrown instanceof Error && 'code' in thrown && isCode(thrown.code)) {
    const faults = 'faults' in thrown && Array.isArray(thrown.faults) ? (thrown.faults as FieldFault[]) : [];
    const { status, mend } = ERRORS[thrown.code];
    return { status, body: { error: { code: thrown.code, message: thrown.message, mend, faults } } };
  }
  const { status, mend } = ERRORS['broken-inside'];
  return {
    status,
    body: { error: { code: 'broken-inside', message: 'Something went wrong here.', mend, faults: [] } },
  };
}
