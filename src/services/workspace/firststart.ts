import { randomBytes } from 'node:crypto';
import { getCountries, isSupportedCountry } from 'libphonenumber-js';
import { array, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { DUTY_DEFAULTS } from '../../core/people/duty';
import { DEFAULT_LOAD } from '../../core/people/load';
import { OWNER } from '../../core/people/rights';
import { writeProfile } from '../../data/dutyprofiles';
import { readPeople, writePerson } from '../../data/people';
import { writePasswordHash } from '../../data/sessions';
import { writeTeam } from '../../data/teams';
import { newSettingsVersion, readWorkspace, writeWorkspace } from '../../data/workspace';
import { hashToken } from '../ground/tokens';
import type { LiveFloor } from '../contacts/livefloor';
import { zone } from '../doors/hours';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { exactly, languageTag, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';
import { password } from './newpassword';
import { hashedPassword } from './passwords';

const schema = exactly(
  object({
    token: requiredText(100, 'The token'),
    company: requiredText(80, 'The name of the workspace'),
    zone,
    languages: array(languageTag).min(1, 'At least one language').max(20, 'At most 20 languages').required(),
    country: string()
      .required('The country is missing')
      .test('country', 'The country is not known', (code) => isSupportedCountry(code ?? '')),
    name: requiredText(80, 'Your name'),
    email: requiredText(200, 'Your address').email('Your address is not an e-mail address'),
    password,
  }),
);

export type FirstStartView = { readonly zones: readonly string[]; readonly countries: readonly string[] };

/** What the functions of this file are given first. `door` holds the digest of the address that works now. */
export type FirstStartDeps = { readonly host: Host; readonly floor: LiveFloor; readonly door: { hash: string | null } };

/** Whether nobody has begun here yet. */
export const isEmpty = ({ host }: Pick<FirstStartDeps, 'host'>): boolean =>
  readWorkspace(host.db) === undefined && readPeople(host.db).length === 0;

/**
 * Makes the one address by which a first owner begins, or null when somebody has begun already. It is kept in memory
 * alone: starting the server anew makes another, and the one before works no more.
 */
export function openFirstStart(deps: FirstStartDeps): string | null {
  if (!isEmpty(deps)) return null;
  const token = randomBytes(24).toString('base64url');
  deps.door.hash = hashToken(token);
  return `/welcome/${token}`;
}

function check(deps: FirstStartDeps, token: string): void {
  if (!isEmpty(deps)) throw new LaneError('closed', 'This workspace has an owner already. Sign in.');
  if (deps.door.hash === null || deps.door.hash !== hashToken(token))
    throw new LaneError('not-found', 'This address is not the one the server printed when it started.');
}

/** What the first owner chooses from; throws where the address does not work. */
export function viewFirstStart(deps: FirstStartDeps, token: string): FirstStartView {
  check(deps, token);
  return { zones: Intl.supportedValuesOf('timeZone'), countries: getCountries() };
}

/** Names the workspace and makes its first owner, with a team and a duty profile to begin with. Works once. */
export async function beginWorkspace(deps: FirstStartDeps, input: unknown): Promise<{ email: string }> {
  const asked = parse(schema, input);
  check(deps, asked.token);
  const hash = await hashedPassword(asked.password);
  const { host, floor, door } = deps;
  return host.transact((tx) => {
    // Asked again inside: of two who begin at once, the second is told.
    check(deps, asked.token);
    writeWorkspace(tx.db, {
      name: asked.company,
      zone: asked.zone,
      languages: [...new Set(asked.languages)],
      country: asked.country,
    });
    const [teamId, dutyProfileId, personId] = [tx.ids('team'), tx.ids('profile'), tx.ids('person')];
    writeTeam(tx.db, { id: teamId, name: asked.company, zone: asked.zone, setIds: [] }, 0);
    writeProfile(tx.db, { ...DUTY_DEFAULTS, id: dutyProfileId, name: 'Everybody', rows: [], load: DEFAULT_LOAD });
    const email = asked.email.toLowerCase();
    writePerson(tx.db, {
      id: personId,
      name: asked.name,
      shownName: asked.name.split(' ')[0] ?? asked.name,
      email,
      teamId,
      alsoTeamIds: [],
      setIds: [],
      siteId: null,
      roleId: OWNER,
      active: true,
      outbound: '',
      dutyProfileId,
      most: {},
    });
    writePasswordHash(tx.db, personId, hash);
    newSettingsVersion(tx.db, tx.realAt, 'workspace', 'workspace');
    floor.refreshPeople(tx, [personId]);
    door.hash = null;
    return { email };
  });
}

export const createFirstStart = (deps: Omit<FirstStartDeps, 'door'>) => ({
  isEmpty: () => isEmpty(deps),
  ...bind({ ...deps, door: { hash: null } } as FirstStartDeps, {
    open: openFirstStart,
    view: viewFirstStart,
    begin: beginWorkspace,
  }),
});
