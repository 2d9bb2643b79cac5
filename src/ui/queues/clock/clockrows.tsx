import { clsx } from 'clsx';
import type { Channel } from '@/core/channels';
import { localised } from '@/core/localised';
import type { Stage } from '@/core/routing/clock';
import type { ClockCount } from '@/core/routing/clockcounts';
import { STILL_BUSY } from '@/core/contact/words';
import { alsoHappens, hears, loosenedOnly, mayChoose, mustKnow, whoIsAdded } from '@/core/routing/clocksegments';
import type { Need } from '@/core/routing/needs';
import { onwardWords } from '@/core/routing/queuesentence';
import type { QueuesView } from '@/services/queues/queuesview';
import { namesIn } from '../draft';
import { Block } from './block';
import { Row } from './row';
import type { Clock } from './useclock';

const LEVEL_INK = [
  '',
  'bg-level-1 text-on-level',
  'bg-level-2 text-on-level',
  'bg-level-3 text-on-level',
  'bg-level-4 text-on-level-deep',
  'bg-level-5 text-on-level-deep',
];

const CHOICES = { callback: 'call me back', message: 'leave a message' } as const;

type Of<K extends keyof Given> = Pick<Given, K>;
type Given = {
  readonly clock: Clock;
  readonly stages: readonly Stage[];
  readonly view: QueuesView;
  readonly channel: Channel;
  readonly needs: readonly Need[];
  readonly counts: readonly ClockCount[] | null;
};

/** What somebody hears: messages and music. */
export function Hears({ clock, stages, view }: Of<'clock' | 'stages' | 'view'>) {
  const language = view.languages[0] ?? 'en';
  const musicName = (id: string) => view.music.find((m) => m.id === id)?.name ?? 'music that is gone';
  return (
    <Row
      name="Hears"
      says="messages and music"
      disabled={clock.disabled}
      onMenuClosed={clock.onMenuClosed}
      adds={[
        [
          'A message',
          () => clock.add({ does: 'say', wording: {}, everySeconds: null }, stages.length === 0 ? 0 : clock.later),
        ],
        ...view.music.map((l): [string, () => void] => [
          `Music: ${l.name}`,
          () => clock.add({ does: 'play', music: l.id }, stages.length === 0 ? 0 : clock.later),
        ]),
      ]}
    >
      {[
        hears(stages, clock.end, language).map((s, i) =>
          s.kind === 'say' ? (
            <Block
              key={`say${i}`}
              clock={clock}
              segment={s}
              look={'bg-plum text-on-plum'}
              label={`Message “${localised(s.wording, language, view.languages)}”`}
            >
              {localised(s.wording, language, view.languages) || 'no words yet'}
            </Block>
          ) : (
            <Block
              key={`music${i}`}
              clock={clock}
              segment={s}
              look={'bg-plum-wash text-ink'}
              label={musicName(s.music)}
            >{`♪ ${musicName(s.music)}`}</Block>
          ),
        ),
      ]}
    </Row>
  );
}

/** The ways out that they are offered, by key or button; whoever takes none keeps their place. */
export function MayChoose({ clock, stages, channel }: Of<'clock' | 'stages' | 'channel'>) {
  return (
    <Row
      name="Ways out"
      says={channel === 'voice' ? 'offered by key' : 'offered by button'}
      disabled={clock.disabled}
      onMenuClosed={clock.onMenuClosed}
      adds={[
        [
          'Ways out',
          () =>
            clock.add(
              {
                does: 'ask',
                wording: STILL_BUSY,
                choices: [{ key: '1', what: 'callback' }],
                everySeconds: null,
              },
              Math.max(30, clock.later),
            ),
        ],
      ]}
    >
      {[
        mayChoose(stages, clock.end).map((s, i) => {
          const words = s.act.choices.map((c) => `${c.key} ${CHOICES[c.what]}`).join(' · ');
          return (
            <Block
              key={`ask${i}`}
              clock={clock}
              segment={s}
              look={'bg-brass-wash text-brass-ink'}
              label={`Ways out: ${words}`}
            >
              {words}
            </Block>
          );
        }),
      ]}
    </Row>
  );
}

/** What whoever takes it must know, and how it loosens. */
export function MustKnow({ clock, stages, needs, view }: Of<'clock' | 'stages' | 'needs' | 'view'>) {
  const names = namesIn(view);
  const handed = loosenedOnly(needs, stages, clock.end);
  return (
    <Row
      name="Must know"
      says="level at least"
      disabled={clock.disabled}
      onMenuClosed={clock.onMenuClosed}
      adds={[
        ...needs.filter((n) => !n.firm).map((n) => n.skillId),
        ...view.skills.filter((s) => s.kind === 'language' && !needs.some((n) => n.skillId === s.id)).map((s) => s.id),
      ].map((skillId): [string, () => void] => [
        `Loosen ${names.skill(skillId)}`,
        () => clock.add({ does: 'lower', skillId, by: 1 }, Math.max(15, clock.later)),
      ])}
    >
      {needs.length === 0 && handed.length === 0
        ? [
            [
              <span key="none" className="absolute top-0 h-7 text-small leading-7 text-ink-3">
                no skill is needed
              </span>,
            ],
          ]
        : mustKnow(needs, stages, clock.end)
            .map(({ skillId, segments }) =>
              segments.map((s, i) => (
                <Block
                  key={`${skillId}${i}`}
                  clock={clock}
                  segment={s}
                  look={
                    s.atLeast < 1 ? 'border border-dashed border-level-team text-ink-2' : (LEVEL_INK[s.atLeast] ?? '')
                  }
                  label={`${names.skill(skillId)} ${s.atLeast < 1 ? 'not needed' : `at least ${s.atLeast}`}`}
                >
                  {s.atLeast < 1
                    ? `${names.skill(skillId)} not needed`
                    : `${names.skill(skillId)} ${s.atLeast}${s.atMost === null ? '' : ` to ${s.atMost}`}`}
                </Block>
              )),
            )
            .concat(
              handed.map(({ skillId, segments }) =>
                segments.map((s, i) => (
                  <Block
                    key={`handed${skillId}${i}`}
                    clock={clock}
                    segment={s}
                    look={'border border-dashed border-level-team text-ink-2'}
                    label={`${names.skill(skillId)} ${s.by} lower if handed over`}
                  >{`${names.skill(skillId)} ${s.by} lower, if a bot asks for it`}</Block>
                )),
              ),
            )}
    </Row>
  );
}

/** Who is asked, beside those whose duty profile says so. */
export function WhoIsAsked({
  clock,
  stages,
  channel,
  counts,
  view,
}: Of<'clock' | 'stages' | 'channel' | 'counts' | 'view'>) {
  const names = namesIn(view);
  const unasked = (does: 'add-group' | 'add-partner') =>
    (does === 'add-group' ? view.groups : view.partners).filter(
      (g) =>
        !stages.some((s) =>
          s.acts.some(
            (a) => (a.does === 'add-group' && a.groupId === g.id) || (a.does === 'add-partner' && a.partnerId === g.id),
          ),
        ),
    );
  const cutCounts = (counts ?? []).filter((c) => c.atSeconds < clock.end);
  return (
    <Row
      name="Who is asked"
      says="added over time"
      disabled={clock.disabled}
      onMenuClosed={clock.onMenuClosed}
      adds={[
        ...unasked('add-group').map((g): [string, () => void] => [
          `Group ${g.name}`,
          () => clock.add({ does: 'add-group', groupId: g.id }, Math.max(30, clock.later)),
        ]),
        ...(channel === 'voice'
          ? unasked('add-partner').map((p): [string, () => void] => [
              `Partner desk ${p.name}`,
              () => clock.add({ does: 'add-partner', partnerId: p.id }, Math.max(30, clock.later)),
            ])
          : []),
      ]}
    >
      {[
        [
          <span
            key="duty"
            className={clsx(
              'absolute top-0 h-7 overflow-hidden rounded-[7px] bg-moss-wash px-2 text-small leading-7',
              'text-ellipsis whitespace-nowrap text-moss',
            )}
            style={{ left: 0, width: 'calc(100% - 3px)' }}
          >
            by duty profile
            {counts?.[0] ? ` · ${counts[0].asked} people, ${counts[0].onDuty} skilled and on duty` : ''}
          </span>,
        ],
        ...(cutCounts.length > 1
          ? cutCounts
              .slice(1)
              .filter(
                (c, i) =>
                  c.asked > (cutCounts[i]?.asked ?? 0) &&
                  !stages.some((s) => s.atSeconds === c.atSeconds && s.acts.some((a) => a.does === 'add-group')),
              )
              .map((c) => [
                <span
                  key={`delay${c.atSeconds}`}
                  className={clsx(
                    'absolute top-0 h-7 overflow-hidden rounded-[7px] bg-moss-wash px-2 text-small leading-7',
                    'text-ellipsis whitespace-nowrap text-moss',
                  )}
                  style={{ left: clock.at(c.atSeconds), right: 3 }}
                >
                  + {c.asked - (counts?.filter((x) => x.atSeconds < c.atSeconds).at(-1)?.asked ?? 0)} whose delay is
                  over
                </span>,
              ])
          : []),
        ...whoIsAdded(stages, clock.end).map((s, i) => [
          <Block
            key={`who${i}`}
            clock={clock}
            segment={s}
            look={s.act.does === 'add-group' ? 'bg-moss-wash text-moss' : 'bg-tide-wash text-tide'}
            label={
              s.act.does === 'add-group'
                ? `Group ${names.group(s.act.groupId)}`
                : `Partner desk ${names.partner(s.act.partnerId)}`
            }
          >
            {s.act.does === 'add-group' ? `+ ${names.group(s.act.groupId)}` : `+ ${names.partner(s.act.partnerId)}`}
          </Block>,
        ]),
      ]}
    </Row>
  );
}

/** What makes it more urgent, or moves it on. */
export function AndThen({ clock, stages, view }: Of<'clock' | 'stages' | 'view'>) {
  const names = namesIn(view);
  const happens = alsoHappens(stages, clock.end);
  if (happens.length === 0 && clock.disabled) return null;
  return (
    <Row
      name="And then"
      says="urgency, moving on"
      disabled={clock.disabled}
      onMenuClosed={clock.onMenuClosed}
      adds={[
        ['More urgent', () => clock.add({ does: 'raise', by: 1 }, Math.max(30, clock.later))],
        [
          'Move on',
          () => clock.add({ does: 'move', onward: { to: 'message', wording: {} } }, Math.max(60, clock.later)),
        ],
      ]}
    >
      {happens.map((s, i) => [
        <Block
          key={`also${i}`}
          clock={clock}
          segment={s}
          look={s.act.does === 'raise' ? 'bg-chosen text-ink' : 'bg-clay-wash text-clay'}
          label={
            s.act.does === 'raise' ? `Urgency rises by ${s.act.by}` : `Moves on: ${onwardWords(s.act.onward, names)}`
          }
        >
          {s.act.does === 'raise' ? `+${s.act.by} urgency` : `→ ${onwardWords(s.act.onward, names)}`}
        </Block>,
      ])}
    </Row>
  );
}
