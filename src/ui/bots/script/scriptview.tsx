'use client';

import { useMemo, useState } from 'react';
import { addScene } from '@/core/bots/edit';
import type { BotFault } from '@/core/bots/faults';
import type { BotScript } from '@/core/bots/model';
import { sceneTraffic, type Traffic } from '@/core/bots/traffic';
import { Button } from '../../kit/button';
import { newKey } from '../../kit/call';
import { ChosenBar } from './chosenbar';
import { PasteDialog } from './pastedialog';
import { SceneBlock } from './sceneblock';
import { useScript } from './usescript';

/** The whole script as one document: scenes fold, lines are numbered, each with its verb, wording and cues. */
export function ScriptView({
  faults,
  traffic,
  running,
  chosen,
  onChosen,
  onChange,
}: {
  faults: readonly BotFault[];
  traffic: Traffic | null;
  running: string | null;
  chosen: ReadonlySet<string>;
  onChosen: (lines: ReadonlySet<string>) => void;
  onChange: (script: BotScript) => void;
}) {
  const edit = useScript(chosen, onChosen, onChange);
  const [fresh, setFresh] = useState<string | null>(null);
  const met = useMemo(() => sceneTraffic(edit.script, traffic), [edit.script, traffic]);
  const many = chosen.size > 1 ? [...chosen][0] : undefined;
  return (
    <>
      {many !== undefined && <ChosenBar edit={edit} many={many} />}
      {edit.script.scenes.map((scene, s) => (
        <SceneBlock
          key={scene.id}
          edit={edit}
          scene={scene}
          s={s}
          met={met.get(scene.id)}
          faults={faults}
          running={running}
          fresh={fresh === scene.id}
        />
      ))}
      {edit.mayChange && (
        <div className="flex items-center gap-3 p-3 pl-4">
          {!edit.one && (
            <Button
              onClick={() => {
                const id = newKey();
                setFresh(id);
                onChange(addScene(edit.script, id, 'New scene'));
              }}
            >
              Add a scene
            </Button>
          )}
          <span className="text-tiny text-ink-3">
            On a line: Enter edits, N new below, Alt ↑↓ moves, Shift ↑↓ chooses, Ctrl C X V D, Del, U who leads here, ←
            folds
          </span>
        </div>
      )}
      {edit.pasting && (
        <PasteDialog
          clip={edit.pasting.clip}
          view={edit.view}
          script={edit.script}
          onPaste={edit.putIn}
          onClose={() => edit.setPasting(null)}
        />
      )}
    </>
  );
}
