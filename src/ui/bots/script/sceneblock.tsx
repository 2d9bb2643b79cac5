import { moveScene, removeScene, renameScene } from '@/core/bots/edit';
import type { BotFault } from '@/core/bots/faults';
import { type BotScript, lineNumber, type Scene } from '@/core/bots/model';
import type { sceneTraffic } from '@/core/bots/traffic';
import { Button } from '../../kit/button';
import { asCount } from '../../kit/figures';
import { LineBlock } from './lineblock';
import type { Editing } from './usescript';
import { VerbBox } from './verbbox';

type Met = NonNullable<ReturnType<ReturnType<typeof sceneTraffic>['get']>>;

/**
 * What stands beside a scene's name: its lines, what leads to it, and how customers went through it in the last week.
 */
function sceneAbout(script: BotScript, met: Met | undefined, scene: Scene, first: boolean): string {
  const { from = [], came = 0, left = 0 } = met ?? {};
  const lines = from.map((id) => lineNumber(script, id) ?? '');
  return [
    `${scene.steps.length} ${scene.steps.length === 1 ? 'line' : 'lines'}`,
    first ? 'everyone starts here' : '',
    lines.length > 0
      ? `from ${lines.slice(0, 3).join(', ')}${lines.length > 3 ? ` and ${lines.length - 3} more` : ''}`
      : '',
    script.afterSceneId === scene.id ? 'after the contact' : '',
    came > 0
      ? `${asCount(came)} last week${left / came >= 0.005 ? `, ${Math.round((100 * left) / came)}% left here` : ''}`
      : '',
  ]
    .filter(Boolean)
    .join(' · ');
}

/** One scene: its name, which folds it, and its lines. */
export function SceneBlock({
  edit,
  scene,
  s,
  met,
  faults,
  running,
  fresh,
}: {
  edit: Editing;
  scene: Scene;
  /** Its place, from 0. */ s: number;
  met: Met | undefined;
  faults: readonly BotFault[];
  running: string | null;
  /** It was just added, and is there to be named. */ fresh: boolean;
}) {
  const isFolded = edit.folded.has(scene.id) && !scene.steps.some((x) => x.id === running);
  const box = (at: number) =>
    edit.adding?.sceneId === scene.id &&
    edit.adding.at === at && (
      <VerbBox
        label={`Verb of the new line in ${scene.name}`}
        onVerb={(verb) => edit.adding && edit.insert(verb, edit.adding)}
        onLeave={() => edit.setAdding(null)}
      />
    );
  const stops = faults.filter((f) => f.weight === 'stops' && scene.steps.some((x) => x.id === f.lineId)).length;
  return (
    <section key={scene.id} aria-label={`Scene ${s + 1}, ${scene.name}`}>
      <div className="sticky top-0 z-[5] flex items-center gap-2 border-b border-rule bg-sunk px-4 py-1.5">
        <span className="flex size-6 shrink-0 items-center justify-center rounded-full bg-plum text-small font-bold text-on-plum">
          {s + 1}
        </span>
        {edit.mayChange && !edit.one ? (
          <input
            aria-label={`Name of scene ${s + 1}`}
            value={scene.name}
            autoFocus={fresh}
            onFocus={(e) => fresh && e.target.select()}
            maxLength={60}
            size={Math.max(6, scene.name.length)}
            onChange={(e) => edit.onChange(renameScene(edit.script, scene.id, e.target.value))}
            className="min-w-0 rounded-control bg-transparent font-display text-panel font-semibold"
          />
        ) : (
          <h2 className="text-panel">{scene.name}</h2>
        )}
        <span className="flex-1 truncate text-small text-ink-2">
          {sceneAbout(edit.script, met, scene, s === 0 && !edit.one)}
        </span>
        {stops > 0 && isFolded && <span className="text-small font-semibold text-clay">{stops} to mend</span>}
        {edit.mayChange && !isFolded && !edit.one && (
          <>
            <Button
              small
              kind="quiet"
              disabled={s === 0}
              aria-label={`Move ${scene.name} up`}
              onClick={() => edit.onChange(moveScene(edit.script, scene.id, -1))}
            >
              ↑
            </Button>
            <Button
              small
              kind="quiet"
              disabled={s === edit.script.scenes.length - 1}
              aria-label={`Move ${scene.name} down`}
              onClick={() => edit.onChange(moveScene(edit.script, scene.id, 1))}
            >
              ↓
            </Button>
          </>
        )}
        {edit.mayChange && scene.steps.length === 0 && edit.script.scenes.length > 1 && (
          <Button small kind="quiet" onClick={() => edit.onChange(removeScene(edit.script, scene.id))}>
            Remove
          </Button>
        )}
        <Button
          small
          kind="quiet"
          id={`fold-${scene.id}`}
          aria-expanded={!isFolded}
          aria-label={`${isFolded ? 'Unfold' : 'Fold'} ${scene.name}`}
          onClick={() => edit.toggle(scene.id)}
        >
          {isFolded ? 'unfold' : 'fold'}
        </Button>
      </div>
      {!isFolded && (
        <>
          {box(0)}
          {scene.steps.map((step, i) => (
            <div key={step.id}>
              <LineBlock edit={edit} scene={scene} s={s} step={step} i={i} faults={faults} running={running} />
              {box(i + 1)}
            </div>
          ))}
          {scene.steps.length === 0 && <p className="px-4 py-2 text-small text-ink-3">No line in this scene yet.</p>}
          {edit.mayChange && !(edit.adding?.sceneId === scene.id) && (
            <div className="flex items-center gap-1 border-b border-rule px-4 py-0.5 pl-[60px]">
              <Button
                small
                kind="quiet"
                onClick={() => edit.setAdding({ sceneId: scene.id, at: scene.steps.length })}
                aria-label={`New line in ${scene.name}`}
              >
                New line
              </Button>
              <Button
                small
                kind="quiet"
                onClick={() => edit.paste(scene.id, scene.steps.length)}
                aria-label={`Put copied lines into ${scene.name}`}
              >
                Put in copied lines
              </Button>
            </div>
          )}
        </>
      )}
    </section>
  );
}
