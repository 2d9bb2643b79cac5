'use client';

import type { Channel } from '@/core/channels';
import type { Stage } from '@/core/routing/clock';
import type { ClockCount } from '@/core/routing/clockcounts';
import { actAt } from '@/core/routing/clockedit';
import type { Need } from '@/core/routing/needs';
import type { QueueSettings } from '@/core/routing/queue';
import type { QueuesView } from '@/services/queues/queuesview';
import { secondsWords } from './axis';
import { AbleCounts } from './ablecounts';
import { ActEditor } from './acteditor';
import { AndThen, Hears, MayChoose, MustKnow, WhoIsAsked } from './clockrows';
import { Joined } from './joined';
import { useClock } from './useclock';

type Props = {
  readonly queueId: string;
  readonly channel: Channel;
  readonly stages: readonly Stage[];
  readonly needs: readonly Need[];
  readonly goalSeconds: number;
  readonly counts: readonly ClockCount[] | null;
  readonly busiest: string | null;
  readonly view: QueuesView;
  readonly disabled: boolean;
  readonly onChange: (stages: readonly Stage[]) => void;
  /** What each side hears when they meet. */
  readonly joined: QueueSettings['connect'];
  readonly onJoined: (joined: QueueSettings['connect']) => void;
};

/**
 * Everything that happens to somebody who waits, on one time axis. An act is moved by dragging it, by the arrow keys
 * (5 s, with Shift 1 s) or by typing its seconds below, where Enter leads; Delete takes it out.
 */
export function WaitClock({
  channel,
  stages,
  needs,
  goalSeconds,
  counts,
  busiest,
  view,
  disabled,
  onChange,
  joined,
  onJoined,
}: Props) {
  const clock = useClock(stages, goalSeconds, disabled, onChange);
  const { at, chosen, end, marks } = clock;
  const act = actAt(stages, chosen);
  return (
    <div ref={clock.root}>
      <div className="grid grid-cols-[132px_minmax(0,1fr)]">
        <span />
        <div className="relative mr-6 h-6 text-tiny text-ink-2" aria-hidden>
          {marks
            .filter((m) => Math.abs(m - goalSeconds) > end / 18)
            .map((m) => (
              <span key={m} className="absolute -translate-x-1/2 whitespace-nowrap" style={{ left: at(m) }}>
                {secondsWords(m)}
              </span>
            ))}
          <span
            className="absolute -translate-x-1/2 font-semibold whitespace-nowrap text-clay"
            style={{ left: at(goalSeconds) }}
          >
            {secondsWords(goalSeconds)} goal
          </span>
        </div>
      </div>
      <div className="relative" onPointerMove={clock.onMove} onPointerUp={clock.onUp} onPointerCancel={clock.onUp}>
        <div className="pointer-events-none absolute inset-y-0 right-6 left-[132px]" ref={clock.track} aria-hidden>
          {marks.map((m) => (
            <span key={m} className="absolute inset-y-0 w-px bg-rule" style={{ left: at(m) }} />
          ))}
          <span className="absolute inset-y-0 z-10 w-[2px] -translate-x-px bg-clay" style={{ left: at(goalSeconds) }} />
        </div>
        <Hears clock={clock} stages={stages} view={view} />
        <MayChoose clock={clock} stages={stages} channel={channel} />
        <MustKnow clock={clock} stages={stages} needs={needs} view={view} />
        <WhoIsAsked clock={clock} stages={stages} channel={channel} counts={counts} view={view} />
        <AndThen clock={clock} stages={stages} view={view} />
        <AbleCounts clock={clock} counts={counts} busiest={busiest} />
      </div>
      <Joined channel={channel} joined={joined} languages={view.languages} disabled={disabled} onChange={onJoined} />
      {chosen && act && (
        <ActEditor
          key={`${chosen.stage}.${chosen.act}.${act.does}`}
          act={act}
          place={chosen}
          stages={stages}
          channel={channel}
          view={view}
          disabled={disabled}
          onChange={onChange}
          onMove={(to) => clock.moveTo(chosen, to)}
          onRemove={() => clock.remove(chosen)}
          onClose={() => clock.setChosen(null)}
        />
      )}
    </div>
  );
}
