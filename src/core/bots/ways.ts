import { type Cue, lineNumber } from './model';
import type { Place } from './program';
import { below, frameOf, type Lead, needsOf, type Run } from './run';
import { say, words } from './saying';
import { orElse } from '../messages/ssml';
import { lastSentence } from './sentences';
import type { Values } from './value';

/** How deep shared scenes may play others. */
const DEPTH_LIMIT = 8;

const PATH_LIMIT = 300;

/** Comes to a line. What was remembered for a scene is forgotten on leaving it. */
export function enter(run: Run, { step, sceneId }: Place): void {
  const { state } = run;
  const frame = frameOf(run);
  // A shared scene's inputs are set before its first line.
  const frames =
    frame.sceneId === sceneId
      ? state.frames
      : [...state.frames.slice(0, -1), { ...frame, sceneId, values: frame.sceneId === null ? frame.values : {} }];
  run.state = { ...state, frames, lineId: step.id, ran: state.ran + 1, status: 'running' };
}

/**
 * A shared scene is over: on with the line after the one that played it. The bot's own last line ends the
 * conversation.
 */
export function back(run: Run): Lead {
  const frame = frameOf(run);
  if (frame.sharedId === null) return 'end';
  run.state = { ...run.state, frames: run.state.frames.slice(0, -1) };
  return frame.back === null ? 'back' : { line: frame.back };
}

export function play(run: Run, place: Place, sharedId: string, inputs: Values): Lead {
  const first = run.program.spaces.get(sharedId)?.first;
  if (!first) return 'gone';
  if (run.state.frames.length > DEPTH_LIMIT)
    return stopWith(run, `shared scenes play each other more than ${DEPTH_LIMIT} deep`);
  run.state = {
    ...run.state,
    frames: [...run.state.frames, { sharedId, sceneId: null, values: inputs, back: place.below }],
  };
  return { line: first };
}

export function follow(run: Run, place: Place, way: string, cue: Cue | null): Lead {
  const { path } = run.state;
  if (path.length < PATH_LIMIT) run.state = { ...run.state, path: [...path, `${place.step.id}>${way}`] };
  if (!cue)
    return stopWith(run, way === 'failed' || way === 'unsure' ? 'what it asked for failed' : 'it was not understood');
  switch (cue.to) {
    case 'next':
      return below(place);
    case 'line':
      return { line: cue.lineId };
    case 'end':
      return 'end';
    case 'shared':
      return play(run, place, cue.sharedId, {});
    case 'scene': {
      // A shared scene knows no scene of the bot that plays it.
      const line = run.program.spaces.get(frameOf(run).sharedId)?.firstOf.get(cue.sceneId);
      return line === undefined ? 'gone' : { line };
    }
  }
}

export function finish(run: Run, how: 'ended' | 'went-quiet'): void {
  run.state = { ...run.state, status: 'ended', asked: null };
  run.acts.push({ type: 'end', lineId: run.state.lineId, how });
}

export function stopWith(run: Run, reason: string): Lead {
  fault(run, reason);
  return 'stop';
}

export function fault(run: Run, reason: string): void {
  const { script } = run.program;
  const frame = frameOf(run);
  const scene = frame.sharedId === null ? null : run.program.shared.get(frame.sharedId);
  const { lineId } = run.state;
  const place =
    lineId === null
      ? null
      : scene
        ? `${scene.name} ${scene.steps.findIndex((s) => s.id === lineId) + 1}`
        : lineNumber(script, lineId);
  say(run, null, orElse(words(run, script.fallbackWording), lastSentence(run.state.language)));
  run.acts.push({
    type: 'hand-over',
    lineId,
    target: { to: 'queue', queueId: script.fallbackQueueId },
    queueId: script.fallbackQueueId,
    personId: null,
    needs: needsOf(run),
    priority: 0,
    fields: [],
    because: place === null ? reason : `at ${place} ${reason}`,
  });
  run.state = { ...run.state, status: 'handed-over', asked: null };
}
