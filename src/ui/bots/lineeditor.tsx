'use client';

import { useId } from 'react';
import { conditionFrom, OPERATOR_WORDS, OPERATORS, rowFrom, subjectName, type Operator } from '@/core/bots/conditions';
import { newChoice } from '@/core/bots/edit';
import { allSteps, lineNumber, type BotScript, type Choice, type Cue, type Step } from '@/core/bots/model';
import { languageName, type Localised } from '@/core/localised';
import type { Level } from '@/core/people/levels';
import type { BotView } from '@/services/bots';
import { Button } from '../kit/button';
import { newKey } from '../kit/call';
import { Area, Field, Input, Select } from '../kit/field';

type Props<S extends Step> = { step: S; script: BotScript; view: BotView; onChange: (step: Step) => void };

/** Everything about one line, edited in place. */
export function LineEditor({ step, script, view, onChange }: Props<Step>) {
  switch (step.verb) {
    case 'say': return <Wording label="Says" wording={step.wording} script={script} onChange={(wording) => onChange({ ...step, wording })} />;
    case 'end': return <Wording label="Last words" wording={step.wording} script={script} onChange={(wording) => onChange({ ...step, wording })} />;
    case 'listen': return <ListenEditor step={step} script={script} view={view} onChange={onChange} />;
    case 'branch': return <BranchEditor step={step} script={script} view={view} onChange={onChange} />;
    case 'hand-over': return <HandOverEditor step={step} script={script} view={view} onChange={onChange} />;
  }
}

function Wording({ label, wording, script, rows = 2, onChange }: { label: string; wording: Localised; script: BotScript; rows?: number; onChange: (wording: Localised) => void }) {
  return (
    <div className="grid gap-2 xl:grid-cols-2">{script.languages.map((l) => <Field key={l} label={`${label}, ${languageName(l)}`}>{(p) => <Area {...p} rows={rows} lang={l} value={wording[l] ?? ''} onChange={(e) => onChange({ ...wording, [l]: e.target.value })} />}</Field>)}</div>
  );
}

function CueSelect({ label, cue, script, onChange }: { label: string; cue: Cue; script: BotScript; onChange: (cue: Cue) => void }) {
  const value = cue.to === 'line' ? `line:${cue.lineId}` : cue.to === 'scene' ? `scene:${cue.sceneId}` : cue.to;
  const read = (text: string): Cue => text.startsWith('line:') ? { to: 'line', lineId: text.slice(5) } : text.startsWith('scene:') ? { to: 'scene', sceneId: text.slice(6) } : text === 'end' ? { to: 'end' } : { to: 'next' };
  const known = cue.to === 'next' || cue.to === 'end' || (cue.to === 'line' ? lineNumber(script, cue.lineId) !== null : script.scenes.some((s) => s.id === cue.sceneId));
  return (
    <Select aria-label={label} className="!w-44 !py-1 text-small" value={value} onChange={(e) => onChange(read(e.target.value))}>
      {!known && <option value={value}>gone</option>}
      <option value="next">→ next line</option><option value="end">→ end</option>
      <optgroup label="Scenes">{script.scenes.map((s, i) => <option key={s.id} value={`scene:${s.id}`}>→ {i + 1} {s.name}</option>)}</optgroup>
      <optgroup label="Lines">{allSteps(script).map((s) => <option key={s.id} value={`line:${s.id}`}>→ {lineNumber(script, s.id)}</option>)}</optgroup>
    </Select>
  );
}

function ListenEditor({ step, script, view, onChange }: Props<Extract<Step, { verb: 'listen' }>>) {
  const names = useId();
  const choices = step.hears.kind === 'choices' ? step.hears.choices : [];
  const setChoices = (next: readonly Choice[]) => onChange({ ...step, hears: { kind: 'choices', choices: next } });
  const setChoice = (id: string, change: Partial<Choice>) => setChoices(choices.map((c) => (c.id === id ? { ...c, ...change } : c)));
  return (
    <div className="flex flex-col gap-2.5">
      <Wording label="Asks" wording={step.wording} script={script} onChange={(wording) => onChange({ ...step, wording })} />
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-48"><Field label="Listens for">{(p) => <Select {...p} value={step.hears.kind} onChange={(e) => onChange({ ...step, hears: e.target.value === 'text' ? { kind: 'text' } : { kind: 'choices', choices: choices.length > 0 ? choices : [newChoice(newKey(), '1')] } })}><option value="choices">one of several choices</option><option value="text">whatever they say</option></Select>}</Field></div>
        <div className="w-44"><Field label="Remember it as">{(p) => <><Input {...p} list={names} value={step.remember} onChange={(e) => onChange({ ...step, remember: e.target.value })} /><datalist id={names}>{view.fields.map((f) => <option key={f.id} value={f.name}>{f.label}</option>)}</datalist></>}</Field></div>
        <div className="w-20"><Field label="Tries">{(p) => <Input {...p} type="number" min={1} max={9} value={step.tries} onChange={(e) => { if (!Number.isNaN(e.target.valueAsNumber)) onChange({ ...step, tries: Math.min(9, Math.max(1, Math.round(e.target.valueAsNumber))) }); }} />}</Field></div>
        <div><span className="mb-1 block text-small font-medium text-ink-2">Anything else</span><CueSelect label="Anything else goes to" cue={step.otherwise} script={script} onChange={(otherwise) => onChange({ ...step, otherwise })} /></div>
      </div>
      {step.hears.kind === 'choices' && (
        <ul className="flex flex-col gap-2">{choices.map((c, i) => (
          <li key={c.id} className="rounded-control border border-rule p-2">
            <div className="flex flex-wrap items-center gap-2">
              <span className="text-small">Key <Input aria-label={`Key of choice ${i + 1}`} className="!inline-block !w-11 !py-1 text-center" maxLength={1} value={c.key} onChange={(e) => { if (/^[0-9*#]?$/.test(e.target.value)) setChoice(c.id, { key: e.target.value }); }} /></span>
              {script.languages.map((l) => <Input key={l} aria-label={`Choice ${i + 1}, ${languageName(l)}`} placeholder={languageName(l)} className="!w-36 !py-1" value={c.label[l] ?? ''} onChange={(e) => setChoice(c.id, { label: { ...c.label, [l]: e.target.value } })} />)}
              <CueSelect label={`Choice ${i + 1} goes to`} cue={c.cue} script={script} onChange={(cue) => setChoice(c.id, { cue })} />
              <Button small kind="quiet" aria-label={`Remove choice ${i + 1}`} onClick={() => setChoices(choices.filter((x) => x.id !== c.id))}>Remove</Button>
            </div>
            <div className="mt-1.5 flex flex-wrap items-center gap-2">{script.languages.map((l) => <Synonyms key={l} label={`Other words for choice ${i + 1}, ${languageName(l)}`} words={c.synonyms[l] ?? []} onChange={(words) => setChoice(c.id, { synonyms: { ...c.synonyms, [l]: words } })} />)}
              <Select aria-label={`Choice ${i + 1} goes on in`} className="!w-40 !py-1 text-small" value={c.setsLanguage ?? ''} onChange={(e) => { const { setsLanguage: _, ...rest } = c; setChoices(choices.map((x) => (x.id === c.id ? (e.target.value ? { ...rest, setsLanguage: e.target.value } : rest) : x))); }}><option value="">same language</option>{['en', 'es', 'fr', 'pl'].map((l) => <option key={l} value={l}>goes on in {languageName(l)}</option>)}</Select></div>
          </li>
        ))}</ul>
      )}
      {step.hears.kind === 'choices' && <div><Button small onClick={() => setChoices([...choices, newChoice(newKey(), String(choices.length + 1).slice(-1))])}>Add a choice</Button></div>}
      <Wording label="When not understood" rows={1} wording={step.again} script={script} onChange={(again) => onChange({ ...step, again })} />
    </div>
  );
}

function Synonyms({ label, words, onChange }: { label: string; words: readonly string[]; onChange: (words: string[]) => void }) {
  return <Input aria-label={label} placeholder="other words, with commas" title={label} className="!w-56 !py-1 text-small" defaultValue={words.join(', ')} onBlur={(e) => { const next = e.target.value.split(',').map((w) => w.trim()).filter(Boolean); if (next.join() !== words.join()) onChange(next); }} />;
}

function BranchEditor({ step, script, view, onChange }: Props<Extract<Step, { verb: 'branch' }>>) {
  const remembered = allSteps(script).flatMap((s) => (s.verb === 'listen' && s.remember ? [s.remember] : []));
  const subjects = [...new Set([...remembered, ...view.fields.map((f) => f.name)].map((n) => `values.${n}`)), 'language', 'channel'];
  const setWay = (index: number, way: (typeof step.ways)[number]) => onChange({ ...step, ways: step.ways.map((w, i) => (i === index ? way : w)) });
  return (
    <div className="flex flex-col gap-2">
      {step.ways.map((way, i) => {
        const row = rowFrom(way.when);
        const set = (change: Partial<typeof row>) => setWay(i, { ...way, when: conditionFrom({ ...row, ...change }) });
        return (
          <div key={i} className="flex flex-wrap items-center gap-2"><span className="text-small">If</span>
            <Select aria-label={`Way ${i + 1}: value`} className="!w-40 !py-1 text-small" value={row.subject} onChange={(e) => set({ subject: e.target.value })}>{(subjects.includes(row.subject) ? subjects : [row.subject, ...subjects]).map((s) => <option key={s} value={s}>{subjectName(s)}</option>)}</Select>
            <Select aria-label={`Way ${i + 1}: comparison`} className="!w-32 !py-1 text-small" value={row.operator} onChange={(e) => { const op: Operator | undefined = OPERATORS.find((o) => o === e.target.value); if (op) set({ operator: op }); }}>{OPERATORS.map((o) => <option key={o} value={o}>{OPERATOR_WORDS[o]}</option>)}</Select>
            {row.operator !== 'is-set' && row.operator !== 'is-not-set' && <Input aria-label={`Way ${i + 1}: text`} className="!w-32 !py-1 text-small" value={row.text} onChange={(e) => set({ text: e.target.value })} />}
            <CueSelect label={`Way ${i + 1} goes to`} cue={way.cue} script={script} onChange={(cue) => setWay(i, { ...way, cue })} />
            {step.ways.length > 1 && <Button small kind="quiet" aria-label={`Remove way ${i + 1}`} onClick={() => onChange({ ...step, ways: step.ways.filter((_, j) => j !== i) })}>Remove</Button>}</div>
        );
      })}
      <div className="flex items-center gap-2"><span className="text-small">Otherwise</span><CueSelect label="Otherwise goes to" cue={step.otherwise} script={script} onChange={(otherwise) => onChange({ ...step, otherwise })} /><Button small onClick={() => onChange({ ...step, ways: [...step.ways, { when: conditionFrom({ subject: subjects[0] ?? 'channel', operator: 'is', text: '' }), cue: { to: 'next' } }] })}>Add a way</Button></div>
    </div>
  );
}

function HandOverEditor({ step, script, view, onChange }: Props<Extract<Step, { verb: 'hand-over' }>>) {
  const unused = view.skills.filter((s) => !step.needs.some((n) => n.skillId === s.id));
  return (
    <div className="flex flex-col gap-2.5">
      <div className="flex flex-wrap gap-3"><div className="w-52"><Field label="To the queue">{(p) => <Select {...p} value={step.queueId} onChange={(e) => onChange({ ...step, queueId: e.target.value })}>{!view.queues.some((q) => q.id === step.queueId) && <option value={step.queueId}>gone</option>}{view.queues.map((q) => <option key={q.id} value={q.id}>{q.name}</option>)}</Select>}</Field></div>
        <div className="w-24"><Field label="Priority">{(p) => <Input {...p} type="number" min={0} max={9} value={step.priority} onChange={(e) => { if (!Number.isNaN(e.target.valueAsNumber)) onChange({ ...step, priority: Math.min(9, Math.max(0, Math.round(e.target.valueAsNumber))) }); }} />}</Field></div></div>
      <ul className="flex flex-wrap gap-2">{step.needs.map((n) => { const name = view.skills.find((s) => s.id === n.skillId)?.name ?? n.skillId; return (
        <li key={n.skillId} className="flex items-center gap-1 rounded-control border border-rule px-2 py-1 text-small">{name}<select aria-label={`Level of ${name}`} className="bg-sheet" value={n.atLeast} onChange={(e) => onChange({ ...step, needs: step.needs.map((x) => (x === n ? { ...n, atLeast: Number(e.target.value) as Level } : x)) })}>{[1, 2, 3, 4, 5].map((l) => <option key={l} value={l}>at least {l}</option>)}</select><Button small kind="quiet" aria-label={`Remove ${name}`} onClick={() => onChange({ ...step, needs: step.needs.filter((x) => x !== n) })}>×</Button></li>); })}
        <li><Select aria-label="Add a need" className="!w-48 !py-1 text-small" value="" onChange={(e) => { if (e.target.value) onChange({ ...step, needs: [...step.needs, { skillId: e.target.value, atLeast: 3 }] }); }}><option value="">Add a need…</option>{unused.map((s) => <option key={s.id} value={s.id}>{s.name}</option>)}</Select></li></ul>
      <Wording label="Says first" wording={step.wording} script={script} onChange={(wording) => onChange({ ...step, wording })} />
    </div>
  );
}
