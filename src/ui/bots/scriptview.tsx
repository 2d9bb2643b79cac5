'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { BotFault } from '@/core/bots/checks';
import { conditionSentence } from '@/core/bots/conditions';
import { addScene, addStep, cueWords, moveStep, newStep, removeScene, removeStep, renameScene, replaceStep } from '@/core/bots/edit';
import { VERB_NAMES, type BotScript, type Cue, type Step, type Verb } from '@/core/bots/model';
import { localised, missingLanguages, type Localised } from '@/core/localised';
import type { BotView } from '@/services/bots';
import { Button } from '../kit/button';
import { newKey } from '../kit/call';
import { LineEditor } from './lineeditor';

const VERBS = Object.keys(VERB_NAMES) as Verb[];

/** The whole script as one document: scenes fold, lines are numbered, each with its verb, wording and cues. */
export function ScriptView({ script, view, faults, running, onChange }: { script: BotScript; view: BotView; faults: readonly BotFault[]; running: string | null; onChange: (script: BotScript) => void }) {
  const [folded, setFolded] = useState<ReadonlySet<string>>(() => new Set(script.scenes.length > 3 ? script.scenes.slice(3).map((s) => s.id) : []));
  const [opened, setOpened] = useState<string | null>(null);
  const toggle = (id: string) => setFolded((was) => { const next = new Set(was); if (!next.delete(id)) next.add(id); return next; });
  const insert = (sceneId: string, verb: Verb) => { const id = newKey(); onChange(addStep(script, sceneId, newStep(verb, id, script.fallbackQueueId))); setOpened(id); };
  const close = (lineId: string) => { setOpened(null); requestAnimationFrame(() => document.getElementById(`line-${lineId}`)?.focus()); };
  return (
    <>
      {script.scenes.map((scene, s) => {
        const isFolded = folded.has(scene.id) && !scene.steps.some((x) => x.id === running);
        return (
          <section key={scene.id} aria-label={`Scene ${s + 1}, ${scene.name}`}>
            <div className="sticky top-0 z-[5] flex items-center gap-2 border-b border-rule bg-sunk px-4 py-1.5">
              <span className="flex size-6 items-center justify-center rounded-full bg-plum text-small font-bold text-on-plum">{s + 1}</span>
              {view.mayChange ? <input aria-label={`Name of scene ${s + 1}`} value={scene.name} maxLength={60} onChange={(e) => onChange(renameScene(script, scene.id, e.target.value))} className="min-w-0 flex-1 rounded-control bg-transparent font-display text-panel font-semibold" /> : <h2 className="flex-1 text-panel">{scene.name}</h2>}
              <span className="text-small text-ink-2">{scene.steps.length} {scene.steps.length === 1 ? 'line' : 'lines'}{s === 0 ? ' · everyone starts here' : ''}</span>
              {view.mayChange && scene.steps.length === 0 && script.scenes.length > 1 && <Button small kind="quiet" onClick={() => onChange(removeScene(script, scene.id))}>Remove</Button>}
              <Button small kind="quiet" aria-expanded={!isFolded} aria-label={`${isFolded ? 'Unfold' : 'Fold'} ${scene.name}`} onClick={() => toggle(scene.id)}>{isFolded ? 'unfold' : 'fold'}</Button>
            </div>
            {!isFolded && (
              <>
                {scene.steps.map((step, i) => (
                  <div key={step.id} id={`line-${step.id}`} tabIndex={0} role="group" aria-label={`Line ${s + 1}.${i + 1}, ${VERB_NAMES[step.verb]}`}
                    className={clsx('grid grid-cols-[44px_92px_minmax(0,1fr)] border-b border-rule px-4 py-1.5', running === step.id ? 'bg-chosen' : faults.some((f) => f.lineId === step.id && f.weight === 'stops') ? 'bg-clay-wash' : 'hover:bg-sunk/40')}
                    onClick={(e) => { if (opened !== step.id && !(e.target instanceof HTMLElement && e.target.closest('button'))) setOpened(step.id); }}
                    onKeyDown={(e) => {
                      if (e.target !== e.currentTarget) { if (e.key === 'Escape' && opened === step.id) { e.stopPropagation(); close(step.id); } return; }
                      if (e.key === 'Enter') { e.preventDefault(); setOpened(step.id); }
                      if (e.altKey && view.mayChange && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) { e.preventDefault(); onChange(moveStep(script, step.id, e.key === 'ArrowUp' ? -1 : 1)); }
                      else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') { e.preventDefault(); const all = [...document.querySelectorAll<HTMLElement>('[id^="line-"]')]; all[all.indexOf(e.currentTarget) + (e.key === 'ArrowDown' ? 1 : -1)]?.focus(); }
                    }}>
                    <span className="pt-px text-small text-ink-2">{s + 1}.{i + 1}</span><span className="font-display font-semibold text-plum">{VERB_NAMES[step.verb]}</span>
                    {opened === step.id && view.mayChange ? (
                      <div className="min-w-0"><LineEditor step={step} script={script} view={view} onChange={(next) => onChange(replaceStep(script, next))} />
                        <div className="mt-3 flex gap-2"><Button small kind="primary" onClick={() => close(step.id)}>Done</Button><Button small disabled={i === 0} onClick={() => onChange(moveStep(script, step.id, -1))}>Move up</Button><Button small disabled={i === scene.steps.length - 1} onClick={() => onChange(moveStep(script, step.id, 1))}>Move down</Button><Button small kind="danger" onClick={() => { setOpened(null); onChange(removeStep(script, step.id)); }}>Remove the line</Button></div></div>
                    ) : <Line step={step} script={script} view={view} />}
                  </div>
                ))}
                {scene.steps.length === 0 && <p className="px-4 py-2 text-small text-ink-3">No line in this scene yet.</p>}
                {view.mayChange && <div className="flex flex-wrap items-center gap-1.5 border-b border-rule px-4 py-1.5 pl-[60px]" role="group" aria-label={`Add a line to ${scene.name}`}><span className="text-small text-ink-3">add</span>{VERBS.map((v) => <Button key={v} small kind="quiet" onClick={() => insert(scene.id, v)}>{VERB_NAMES[v]}</Button>)}</div>}
              </>
            )}
          </section>
        );
      })}
      {view.mayChange && <div className="p-3 pl-4"><Button onClick={() => onChange(addScene(script, newKey(), 'New scene'))}>Add a scene</Button></div>}
    </>
  );
}

const Quote = ({ wording, script }: { wording: Localised; script: BotScript }) => {
  const text = localised(wording, script.languages[0] ?? 'en', script.languages);
  const missing = missingLanguages(wording, script.languages);
  return (
    <span className="flex gap-3"><span className="min-w-0 flex-1">{text ? `“${text}”` : <span className="text-ink-3">nothing said</span>}</span>
      {text && <span className="text-tiny text-ink-2">{script.languages.map((l) => <span key={l} className={clsx('ml-1', missing.includes(l) && 'font-semibold text-clay')}>{missing.includes(l) ? `no ${l}` : l}</span>)}</span>}</span>
  );
};
const Cues = ({ cues, script }: { cues: readonly { label: string; cue: Cue }[]; script: BotScript }) => (
  <ul className="mt-0.5">{cues.map((c, i) => { const words = cueWords(script, c.cue); return <li key={i} className="grid grid-cols-[200px_20px_minmax(0,1fr)] text-small"><span className="truncate font-semibold">{c.label}</span><span className="text-ink-3">→</span><span>{words === null ? <span className="text-clay">gone</span> : c.cue.to === 'next' ? <span className="text-ink-2">next line</span> : <span className="rounded bg-plum-wash px-1.5 text-plum">{words}</span>}</span></li>; })}</ul>
);

function Line({ step, script, view }: { step: Step; script: BotScript; view: BotView }) {
  const first = script.languages[0] ?? 'en';
  switch (step.verb) {
    case 'say': return <Quote wording={step.wording} script={script} />;
    case 'end': return <Quote wording={step.wording} script={script} />;
    case 'listen': return (
      <div className="min-w-0"><Quote wording={step.wording} script={script} />
        {step.hears.kind === 'text' ? <p className="text-small text-ink-2">whatever they say{step.remember && <> → <Value name={step.remember} /></>}</p> : step.remember && <p className="text-small text-ink-2">remembered as <Value name={step.remember} /></p>}
        <Cues script={script} cues={[...(step.hears.kind === 'choices' ? step.hears.choices.map((c) => ({ label: `${c.key ? `${c.key} ` : ''}${localised(c.label, first, script.languages) || 'unnamed'}`, cue: c.cue })) : []), { label: `anything else, ${step.tries === 1 ? 'at once' : `${step.tries} times`}`, cue: step.otherwise }]} /></div>
    );
    case 'branch': return <Cues script={script} cues={[...step.ways.map((w) => ({ label: conditionSentence(w.when), cue: w.cue })), { label: 'otherwise', cue: step.otherwise }]} />;
    case 'hand-over': return (
      <div className="min-w-0"><p>to <b>{view.queues.find((q) => q.id === step.queueId)?.name ?? 'a queue that is gone'}</b>{step.needs.map((n) => <span key={n.skillId}> · {view.skills.find((s) => s.id === n.skillId)?.name ?? n.skillId} {n.atLeast}</span>)}{step.priority > 0 && ` · priority ${step.priority}`}</p><span className="text-ink-2"><Quote wording={step.wording} script={script} /></span></div>
    );
  }
}
const Value = ({ name }: { name: string }) => <span className="rounded bg-brass-wash px-1.5 text-small text-brass-ink">{name}</span>;
