'use client';

import { clsx } from 'clsx';
import { Link } from '../../kit/link';
import { toast } from 'sonner';
import { type Channel, CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import { FULL } from '@/core/people/load';
import type { Condition } from '@/core/people/readiness';
import type { PeopleView, PersonLine, PersonView, StandingLine } from '@/services/people/peopleview';
import { sentence, setting } from '../../kit/call';
import { asDayTime } from '../../kit/figures';
import { useLive } from '../../kit/live';
import { Looking } from '../../kit/looking';
import { ForNow } from './fornow';
import { switchPerson } from './switchoff';
import { Takes } from './takes';

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

export function Now({
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
      {profile && <Takes view={view} profile={profile} most={person.most} own={person.ownRows} />}
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
