import { clsx } from 'clsx';
import { moveSteps, replaceStep } from '@/core/bots/edit';
import type { BotFault } from '@/core/bots/faults';
import { type Scene, type Step, VERB_NAMES } from '@/core/bots/model';
import { Button } from '../../kit/button';
import { Line } from './line';
import { LineEditor } from './lineeditor';
import { click, press } from './scriptkeys';
import type { Editing } from './usescript';

/** One line of a scene: its number, verb and wording, or its editor while it is open. */
export function LineBlock({
  edit,
  scene,
  s,
  step,
  i,
  faults,
  running,
}: {
  edit: Editing;
  scene: Scene;
  /** The scene's place and the line's, from 0. */ s: number;
  i: number;
  step: Step;
  faults: readonly BotFault[];
  running: string | null;
}) {
  return (
    <div
      id={`line-${step.id}`}
      tabIndex={0}
      role="group"
      aria-label={`Line ${s + 1}.${i + 1}, ${VERB_NAMES[step.verb]}${edit.chosen.has(step.id) && edit.chosen.size > 1 ? ', chosen' : ''}`}
      className={clsx(
        'grid grid-cols-[44px_132px_minmax(0,1fr)] border-b border-rule px-4 py-1.5',
        running === step.id
          ? 'bg-chosen'
          : edit.opened === step.id
            ? 'bg-sheet'
            : edit.chosen.has(step.id)
              ? 'bg-plum-wash'
              : faults.some((f) => f.lineId === step.id && f.weight === 'stops')
                ? 'bg-clay-wash'
                : faults.some((f) => f.lineId === step.id)
                  ? 'bg-brass-wash/40'
                  : 'hover:bg-sunk/40',
      )}
      onClick={(e) => click(edit, e, step)}
      onKeyDown={(e) => press(edit, e, step, scene, i)}
    >
      <span className="pt-px text-small text-ink-2">
        {s + 1}.{i + 1}
      </span>
      <span className="font-display font-semibold text-plum">{VERB_NAMES[step.verb]}</span>
      {edit.opened === step.id && edit.mayChange ? (
        <div className="min-w-0">
          <LineEditor step={step} onChange={(next) => edit.onChange(replaceStep(edit.script, next))} />
          <div className="mt-3 flex flex-wrap gap-2">
            <Button small kind="primary" onClick={() => edit.close(step.id)}>
              Done
            </Button>
            <Button
              small
              onClick={() => {
                edit.setOpened(null);
                edit.setAdding({ sceneId: scene.id, at: i + 1 });
              }}
            >
              New line below
            </Button>
            <Button small disabled={i === 0} onClick={() => edit.onChange(moveSteps(edit.script, [step.id], -1))}>
              Move up
            </Button>
            <Button
              small
              disabled={i === scene.steps.length - 1}
              onClick={() => edit.onChange(moveSteps(edit.script, [step.id], 1))}
            >
              Move down
            </Button>
            <Button small onClick={() => edit.duplicate(step.id)}>
              Duplicate
            </Button>
            <Button small onClick={() => edit.toUser(step.id)}>
              Who leads here
            </Button>
            <Button small kind="danger" onClick={() => edit.remove(step.id)}>
              Remove the line
            </Button>
          </div>
        </div>
      ) : (
        <Line step={step} />
      )}
    </div>
  );
}
