import type { KeyboardEvent, MouseEvent } from 'react';
import type { Scene, Step } from '@/core/bots/model';
import { type Editing, focusLine } from './usescript';

/**
 * A key on a line: Enter edits, arrows go, with Alt they move it and with Shift they choose; see the list below a
 * script.
 */
export function press(edit: Editing, e: KeyboardEvent<HTMLElement>, step: Step, scene: Scene, at: number): void {
  if (e.target !== e.currentTarget) {
    if (e.key === 'Escape' && edit.opened === step.id) {
      e.stopPropagation();
      edit.close(step.id);
    }
    return;
  }
  const done = (act: () => void) => {
    e.preventDefault();
    act();
  };
  const ctrl = e.ctrlKey || e.metaKey;
  const key = e.key.toLowerCase();
  if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
    const by = e.key === 'ArrowDown' ? 1 : -1;
    if (e.altKey)
      return done(() => {
        if (!edit.mayChange) return;
        edit.move(step.id, by);
        focusLine(step.id);
      });
    const all = [...document.querySelectorAll<HTMLElement>('[id^="line-"]')];
    const next = all[all.indexOf(e.currentTarget) + by];
    return done(() => {
      next?.focus();
      const id = next?.id.slice('line-'.length);
      if (id && e.shiftKey) {
        const from = edit.anchor ?? step.id;
        edit.setAnchor(from);
        edit.extend(from, id);
      } else if (id) {
        edit.setAnchor(id);
        edit.onChosen(new Set([id]));
      }
    });
  }
  if (e.key === 'ArrowLeft')
    return done(() => {
      edit.toggle(scene.id);
      requestAnimationFrame(() => document.getElementById(`fold-${scene.id}`)?.focus());
    });
  if (ctrl && key === 'c') return done(() => edit.copy(step.id, false));
  if (ctrl && key === 'a') return done(() => edit.onChosen(new Set(scene.steps.map((s) => s.id))));
  if (!ctrl && !e.altKey && key === 'u') return done(() => edit.toUser(step.id));
  if (e.key === 'Escape') return done(() => edit.onChosen(new Set()));
  if (!edit.mayChange) return;
  if (e.key === 'Enter') return done(() => edit.setOpened(step.id));
  if (e.key === ' ') return done(() => edit.chooseToo(step.id));
  if (ctrl && key === 'x') return done(() => edit.copy(step.id, true));
  if (ctrl && key === 'v') return done(() => edit.paste(scene.id, at + 1));
  if (ctrl && key === 'd') return done(() => edit.duplicate(step.id));
  if (e.key === 'Delete' || e.key === 'Backspace') return done(() => edit.remove(step.id));
  if (!ctrl && !e.altKey && key === 'n') return done(() => edit.setAdding({ sceneId: scene.id, at: at + 1 }));
}

/** A click chooses a line, with Shift up to it, with Ctrl it as well; a second click opens it. */
export function click(edit: Editing, e: MouseEvent<HTMLElement>, step: Step): void {
  if (edit.opened === step.id || (e.target instanceof HTMLElement && e.target.closest('button'))) return;
  if (e.shiftKey) return edit.extend(edit.anchor ?? step.id, step.id);
  edit.setAnchor(step.id);
  if (e.ctrlKey || e.metaKey) return edit.chooseToo(step.id);
  edit.onChosen(new Set([step.id]));
  if (edit.mayChange && edit.chosen.has(step.id)) edit.setOpened(step.id);
}
