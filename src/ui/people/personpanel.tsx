'use client';

import { clsx } from 'clsx';
import Link from 'next/link';
import { useState } from 'react';
import { toast } from 'sonner';
import { CHANNEL_NAMES, CHANNELS, type Channel } from '@/core/channels';
import { FULL, withOverrides } from '@/core/people/load';
import type { Condition } from '@/core/people/readiness';
import type { PeopleView, PersonLine, PersonView, StandingLine } from '@/services/people/people';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { Dialog } from '../kit/dialog';
import { asDayTime, asTime, initials } from '../kit/figures';
import { useLive } from '../kit/live';
import { Looking } from '../kit/looking';
import { Empty, Panel } from '../kit/panel';
import { LevelList } from './levellist';
import { PersonForm } from './personform';
import { StatePill } from './statepill';
import { Ways } from './ways';

/** The chosen person: can a contact reach them, what they hold now, what they take in which order, and their settings. */
export function PersonPanel({
  view,
  standing,
  person,
  adding,
  onSaved,
}: {
  view: PeopleView;
  standing: StandingLine | null;
  person: PersonLine | null;
  adding: boolean;
  onSaved: (id: string) => void;
}) {
  const [editing, setEditing] = useState(adding);
  const [part, setPart] = useState<'now' | 'levels' | 'reach'>('now');
  const [leaving, setLeaving] = useState(false);
  if (!person && !adding)
    return (
      <Panel>
        <Empty title="Nobody chosen">Choose a person to see what they can take.</Empty>
      </Panel>
    );
  if (!person || editing) {
    return (
      <Panel className="min-h-0 overflow-y-auto p-4" label={person ? person.name : 'New person'}>
        <PersonForm
          view={view}
          person={person}
          onDone={(id) => {
            setEditing(false);
            if (id) onSaved(id);
          }}
        />
      </Panel>
    );
  }
  const parts = [
    ['now', 'Now'],
    ['levels', 'Levels'],
    ['reach', 'Ways'],
  ] as const;
  return (
    <Panel className="min-h-0 overflow-y-auto p-4" label={person.name}>
      <div className="mb-2 flex items-center gap-3">
        <span className="flex size-9 shrink-0 items-center justify-center rounded-full bg-mark-messaging font-semibold text-mark-ink">
          {initials(person.name)}
        </span>
        <div className="min-w-0 flex-1">
          <h2 className="truncate text-panel">{person.name}</h2>
          <p className="truncate text-small text-ink-2">
            {view.teams.find((t) => t.id === person.teamId)?.name ?? 'another team'}
            {person.alsoTeamIds.length > 0 && ` +${person.alsoTeamIds.length}`} · {person.roleName}
          </p>
        </div>
        {standing && (
          <StatePill
            duty={standing.duty}
            reason={standing.reason}
            reachable={standing.reachable}
            open={standing.open}
          />
        )}
      </div>
      <div role="tablist" aria-label="About this person" className="mb-3 flex gap-1 border-b border-rule">
        {parts.map(([id, name]) => (
          <button
            key={id}
            type="button"
            role="tab"
            aria-selected={part === id}
            onClick={() => setPart(id)}
            className={clsx(
              '-mb-px border-b-2 px-2.5 py-1 text-small font-medium',
              part === id ? 'border-plum text-plum' : 'border-transparent text-ink-2',
            )}
          >
            {name}
          </button>
        ))}
      </div>
      {part === 'now' && (
        <Now view={view} person={person} standing={standing} onEdit={() => setEditing(true)} onPart={setPart} />
      )}
      {part === 'levels' && <LevelList view={view} person={person} />}
      {part === 'reach' && <Ways person={person} />}
      <div className="mt-3 flex flex-wrap gap-x-2.5 gap-y-2 border-t border-rule pt-3">
        {person.mayChange && (
          <Button small onClick={() => setEditing(true)}>
            Change
          </Button>
        )}
        {person.mayChange &&
          person.roleId !== 'owner' &&
          !person.above &&
          (person.active ? (
            <Button small onClick={() => setLeaving(true)}>
              Switch off
            </Button>
          ) : (
            <Button small onClick={() => void switchPerson(person, true)}>
              Switch on
            </Button>
          ))}
        <Link className="self-center text-small text-plum underline" href={`/people/roles?person=${person.id}`}>
          Access
        </Link>
        {view.maySeeHistory && (
          <Link className="self-center text-small text-plum underline" href={`/history?thing=${person.id}`}>
            History
          </Link>
        )}
      </div>
      {leaving && <SwitchOff person={person} open={standing?.open.length ?? 0} onClose={() => setLeaving(false)} />}
    </Panel>
  );
}

async function switchPerson(person: PersonLine, active: boolean, open?: string): Promise<boolean> {
  try {
    await setting('switch-person', { personId: person.id, active, ...(open ? { open } : {}) });
    toast.success(
      active
        ? `${person.name} is switched on.`
        : open === 'finish'
          ? `${person.name} finishes what is open, then is switched off.`
          : `${person.name} is switched off.`,
    );
    return true;
  } catch (error) {
    toast.error(sentence(error));
    return false;
  }
}

function SwitchOff({ person, open, onClose }: { person: PersonLine; open: number; onClose: () => void }) {
  const off = async (how?: string) => {
    if (await switchPerson(person, false, how)) onClose();
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Switch off ${person.name}`}
      description="Nobody can sign in with the account, and no contact is offered. It can be switched on again."
    >
      {open === 0 ? (
        <div className="flex gap-2">
          <Button kind="danger" onClick={() => void off()}>
            Switch off
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      ) : (
        <div className="flex flex-col items-start gap-2">
          <p className="text-small">
            {person.name} has {open} {open === 1 ? 'contact' : 'contacts'} open. What happens to{' '}
            {open === 1 ? 'it' : 'them'}?
          </p>
          <Button onClick={() => void off('finish')}>Let them finish first</Button>
          <Button onClick={() => void off('return')}>
            Back to the queue, at the place {open === 1 ? 'it' : 'they'} had
          </Button>
          <Button kind="danger" onClick={() => void off('end')}>
            End {open === 1 ? 'it' : 'them'} now
          </Button>
          <Button kind="quiet" onClick={onClose}>
            Cancel
          </Button>
        </div>
      )}
    </Dialog>
  );
}

const MARK: Readonly<Record<Condition['state'], { sign: string; word: string; className: string }>> = {
  ok: { sign: '✓', word: 'ok', className: 'bg-moss-wash text-moss' },
  stops: { sign: '!', word: 'stops contacts', className: 'bg-clay-wash text-clay' },
  advice: { sign: '·', word: 'advice', className: 'bg-brass-wash text-brass-ink' },
};
const BLOCK: Readonly<Record<Channel, string>> = {
  voice: 'bg-mark-voice',
  chat: 'bg-mark-chat',
  messaging: 'bg-mark-messaging',
  sms: 'bg-mark-sms',
};

function Now({
  view,
  person,
  standing,
  onEdit,
  onPart,
}: {
  view: PeopleView;
  person: PersonLine;
  standing: StandingLine | null;
  onEdit: () => void;
  onPart: (part: 'levels' | 'reach') => void;
}) {
  const { data, error, refetch } = useLive<PersonView>(`/api/read/person?id=${person.id}`, [
    'settings.changed',
    'person.duty',
    'person.reach',
  ]);
  const profile = view.profiles.find((p) => p.id === (person.forNow?.profileId ?? person.dutyProfileId));
  const pending = data?.invitation && data.invitation.endedHow === null ? data.invitation : null;
  return (
    <>
      <h3 className="text-small">
        Can a contact reach them?{' '}
        {data && (
          <span className={clsx('font-body font-semibold', data.ready ? 'text-moss' : 'text-clay')}>
            {data.ready ? 'yes' : 'no'}
          </span>
        )}
      </h3>
      {!data ? (
        <Looking error={error} onAgain={refetch} />
      ) : (
        <ul className="mt-1 mb-3">
          {data.conditions.map((c) => (
            <li key={c.id} className="flex items-start gap-2 py-[2px] text-small">
              <span
                role="img"
                aria-label={MARK[c.state].word}
                className={clsx(
                  'mt-px flex h-[18px] w-6 shrink-0 items-center justify-center rounded-full font-bold',
                  MARK[c.state].className,
                )}
              >
                {MARK[c.state].sign}
              </span>
              <span className="min-w-0 flex-1">
                {c.says}
                {c.fix && (
                  <>
                    {' '}
                    <FixLink condition={c} person={person} onEdit={onEdit} onPart={onPart} />
                  </>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
      {pending && person.mayChange && (
        <p className="-mt-2 mb-3 text-tiny text-ink-2">
          Invited {asDayTime(pending.sentAt, data?.zone ?? 'UTC')}; the link works until{' '}
          {asDayTime(pending.until, data?.zone ?? 'UTC')}.{' '}
          <button
            type="button"
            className="underline"
            onClick={() =>
              void setting('withdraw-invitations', { personIds: [person.id] }).then(
                () => toast.success('The link does not work any more.'),
                (error: unknown) => toast.error(sentence(error)),
              )
            }
          >
            Withdraw it
          </button>
        </p>
      )}
      <h3 className="text-small">
        Load right now{' '}
        <span className="font-body font-normal text-ink-2">
          {standing?.used ?? 0} of {FULL}
        </span>
      </h3>
      <div
        className="mt-1 h-4 overflow-hidden rounded bg-sunk"
        role="img"
        aria-label={`Load ${standing?.used ?? 0} of 100`}
      >
        <span className="flex h-full gap-0.5">
          {(standing?.held ?? [])
            .filter((h) => !h.resting)
            .map((h, i) => (
              <span key={i} className={BLOCK[h.channel]} style={{ width: `${h.cost}%` }} />
            ))}
        </span>
      </div>
      <p className="mb-3 text-tiny text-ink-2">{heldWords(standing)}</p>
      <ForNow view={view} person={person} zone={data?.zone ?? 'UTC'} />
      {profile && <Takes view={view} profile={profile} most={person.most} />}
    </>
  );
}

function heldWords(standing: StandingLine | null): string {
  const held = standing?.held ?? [];
  if (held.length === 0) return 'Nothing open.';
  const parts = CHANNELS.flatMap((c) => {
    const n = held.filter((h) => h.channel === c && !h.resting);
    return n.length > 0 ? [`${n.length} ${CHANNEL_NAMES[c].name} at ${n[0]?.cost ?? 0}`] : [];
  });
  const resting = held.filter((h) => h.resting).length;
  return `${[...parts, ...(resting > 0 ? [`${resting} resting at 0`] : [])].join(', ')}.`;
}

/** The fix beside what is wrong: done here where it can be, else the place where it is. */
function FixLink({
  condition,
  person,
  onEdit,
  onPart,
}: {
  condition: Condition;
  person: PersonLine;
  onEdit: () => void;
  onPart: (part: 'levels' | 'reach') => void;
}) {
  const fix = condition.fix;
  if (!fix) return null;
  const invite = () =>
    setting<{ sent: number }>('send-invitations', { personIds: [person.id] }).then(
      ({ sent }) =>
        toast.success(sent > 0 ? `An invitation is on its way to ${person.email}.` : 'They can sign in already.'),
      (error: unknown) => toast.error(sentence(error)),
    );
  const link = 'font-medium text-plum underline';
  switch (fix.act) {
    case 'open-profile':
      return (
        <Link className={link} href={`/people/duty?profile=${person.dutyProfileId}`}>
          {fix.words}
        </Link>
      );
    case 'open-shift':
      return (
        <Link className={link} href={`/people/shifts?owner=${person.id}`}>
          {fix.words}
        </Link>
      );
    case 'go-ready':
      return <span className="text-ink-3">{fix.words}</span>;
    default: {
      if (!person.mayChange) return <span className="text-ink-3">{fix.words}: ask a lead</span>;
      const act = {
        'switch-on': () => void switchPerson(person, true),
        invite: () => void invite(),
        'change-person': onEdit,
        'verify-way': () => onPart('reach'),
        'set-levels': () => onPart('levels'),
      }[fix.act];
      return (
        <button type="button" className={link} onClick={act}>
          {fix.words}
        </button>
      );
    }
  }
}

/** Another duty profile for now, until a time. */
function ForNow({ view, person, zone }: { view: PeopleView; person: PersonLine; zone: string }) {
  const [open, setOpen] = useState(false);
  const [profileId, setProfileId] = useState('');
  const [until, setUntil] = useState('14:00');
  const put = (id: string | null) =>
    setting<{ until: number | null }>('set-for-now', {
      personId: person.id,
      profileId: id,
      until: id === null ? null : until,
    }).then(
      ({ until: at }) => {
        toast.success(at === null ? `${person.name} is back on their own profile.` : `Until ${asDayTime(at, zone)}.`);
        setOpen(false);
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  if (person.forNow) {
    return (
      <p className="mb-3 rounded-control bg-brass-wash px-2.5 py-1.5 text-small text-brass-ink">
        On <b>{view.profiles.find((p) => p.id === person.forNow?.profileId)?.name}</b> until{' '}
        {asTime(person.forNow.until, zone)}.{' '}
        {person.mayChange && (
          <button type="button" className="underline" onClick={() => void put(null)}>
            End it now
          </button>
        )}
      </p>
    );
  }
  if (!person.mayChange) return null;
  if (!open)
    return (
      <p className="mb-3">
        <Button small onClick={() => setOpen(true)}>
          Another profile for now…
        </Button>
      </p>
    );
  return (
    <form
      className="mb-3 flex flex-wrap items-center gap-1.5 rounded-control bg-sunk p-2 text-small"
      onSubmit={(e) => {
        e.preventDefault();
        void put(profileId);
      }}
    >
      <select
        aria-label="Profile for now"
        required
        value={profileId}
        onChange={(e) => setProfileId(e.target.value)}
        className="min-w-0 flex-1 rounded-control border border-rule-strong bg-sheet px-2 py-1"
      >
        <option value="">Choose…</option>
        {view.profiles
          .filter((p) => p.id !== person.dutyProfileId)
          .map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
      </select>
      <label className="flex items-center gap-1">
        until{' '}
        <input
          type="time"
          aria-label="Until"
          required
          value={until}
          onChange={(e) => setUntil(e.target.value)}
          className="rounded-control border border-rule-strong bg-sheet px-1.5 py-1"
        />
      </label>
      <Button small kind="primary" type="submit">
        Move
      </Button>
      <Button small kind="quiet" onClick={() => setOpen(false)}>
        Cancel
      </Button>
    </form>
  );
}

/** Queues by band, one line per queue with its channels. */
function Takes({
  view,
  profile,
  most,
}: {
  view: PeopleView;
  profile: PeopleView['profiles'][number];
  most: PersonLine['most'];
}) {
  const load = withOverrides(profile.load, most);
  const lines = new Map<string, { queue: string; band: number; delay: number; channels: Channel[] }>();
  for (const row of [...profile.rows].sort((a, b) => a.band - b.band)) {
    const key = `${row.queueId}|${row.band}|${row.delaySeconds}`;
    const line = lines.get(key) ?? {
      queue: view.queues.find((q) => q.id === row.queueId)?.name ?? row.queueId,
      band: row.band,
      delay: row.delaySeconds,
      channels: [],
    };
    if (load[row.channel].most > 0) line.channels.push(row.channel);
    lines.set(key, line);
  }
  return (
    <>
      <h3 className="mb-1 text-small">
        Takes, in this order{' '}
        <Link className="font-body font-normal text-ink-2 underline" href={`/people/duty?profile=${profile.id}`}>
          duty: {profile.name}
        </Link>
      </h3>
      {profile.rows.length === 0 && <p className="text-small text-clay">This profile takes no queue.</p>}
      <ul className="divide-y divide-rule">
        {[...lines.values()].map((l, i) => (
          <li key={i} className="flex items-center gap-2 py-1 text-small">
            <b className="w-3">{l.band}</b>
            <span className="min-w-0 flex-1 truncate">{l.queue}</span>
            <span className="inline-flex gap-1">
              {l.channels.map((c) => (
                <ChannelMark key={c} channel={c} size={15} />
              ))}
              {l.channels.length === 0 && <span className="text-clay">no channel</span>}
            </span>
            <span className="w-[68px] text-right text-ink-2">{l.delay === 0 ? 'at once' : `after ${l.delay} s`}</span>
          </li>
        ))}
      </ul>
      <p className="mt-2 flex gap-3 text-small text-ink-2">
        At once{' '}
        {CHANNELS.map((c) => (
          <span key={c} className="inline-flex items-center gap-1">
            <ChannelMark channel={c} size={14} />
            <b className="text-ink">{load[c].most === 0 ? 'off' : load[c].most}</b>
          </span>
        ))}
      </p>
    </>
  );
}
