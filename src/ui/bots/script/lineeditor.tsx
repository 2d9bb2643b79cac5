'use client';

import type { ComponentType } from 'react';
import type { Step, Verb } from '@/core/bots/model';
import { CallBackEditor } from './callbackeditor';
import { CueSelect } from './cueselect';
import { BranchEditor, CountEditor, HoursEditor, IdentifyEditor, PlayEditor, RememberEditor } from './deciding';
import type { EditorProps } from './editing';
import { HandOverEditor } from './handovereditor';
import { ListenEditor } from './listeneditor';
import { DoEditor, LookUpEditor } from './outsideeditors';
import { Row } from './pieces';
import { SayEditor } from './sayeditor';
import { ArticlesEditor, EndEditor, TakeMessageEditor, TextThemEditor } from './talking';

type Editors = { readonly [V in Verb]: ComponentType<EditorProps<Extract<Step, { verb: V }>>> };

const GoToEditor = ({ step, onChange }: EditorProps<Extract<Step, { verb: 'go-to' }>>) => (
  <Row label="Goes to">
    <CueSelect
      label="Goes to"
      cue={step.cue}
      onChange={(cue) => {
        if (cue) onChange({ ...step, cue });
      }}
    />
  </Row>
);

const EDITORS: Editors = {
  say: SayEditor,
  listen: ListenEditor,
  branch: BranchEditor,
  'look-up': LookUpEditor,
  do: DoEditor,
  count: CountEditor,
  remember: RememberEditor,
  identify: IdentifyEditor,
  hours: HoursEditor,
  'text-them': TextThemEditor,
  'hand-over': HandOverEditor,
  'call-back': CallBackEditor,
  'take-message': TakeMessageEditor,
  articles: ArticlesEditor,
  play: PlayEditor,
  'go-to': GoToEditor,
  end: EndEditor,
};

/** Everything about one line, edited in place. */
export function LineEditor({ step, onChange }: EditorProps<Step>) {
  const Editor = EDITORS[step.verb] as ComponentType<EditorProps<Step>>;
  return <Editor step={step} onChange={onChange} />;
}
