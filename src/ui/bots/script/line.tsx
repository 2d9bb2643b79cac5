'use client';

import { conditionSentence, figureWords } from '@/core/bots/conditions';
import { mayBeUnknown } from '@/core/bots/lineways';
import { imagePath } from '@/core/bots/conversation';
import { waysOf } from '@/core/bots/lineways';
import type { Step } from '@/core/bots/model';
import { localised } from '@/core/localised';
import { Picture } from '../../kit/picture';
import { useAround } from './around';
import { useThingNames } from './conditionrows';
import { Cues, Gone, Inputs, Outputs, SlowNote, TYPES } from './lineparts';
import { Quote, Value, Worded } from './wordingeditor';

/** A line as it is read: what it says or does, and where it goes. */
export function Line({ step }: { step: Step }) {
  const { script, view } = useAround();
  const thing = useThingNames();
  const named = (things: readonly { readonly id: string; readonly name: string }[], id: string, what: string) => {
    const found = things.find((t) => t.id === id);
    return found ? <b>{found.name}</b> : <Gone what={what} />;
  };
  const queue = (id: string) => named(view.queues, id, 'a queue');
  const first = script.languages[0] ?? 'en';
  const needs = (list: readonly { readonly skillId: string; readonly atLeast: number }[]) =>
    list.map((n) => (
      <span key={n.skillId}>
        {' '}
        · {view.skills.find((s) => s.id === n.skillId)?.name ?? 'a skill that is gone'} {n.atLeast}
      </span>
    ));
  switch (step.verb) {
    case 'say':
      return (
        <div className="min-w-0">
          <Quote wording={step.wording} extra={step.mayInterrupt ? null : 'not cut short'} />
          {step.link && (
            <p className="truncate text-small text-tide">
              {localised(step.link.label, first, script.languages)} {step.link.url}
            </p>
          )}
          {step.image && (
            <p className="flex items-center gap-2 text-small text-ink-2">
              <Picture src={imagePath(step.image.imageId)} alt="" small /> shows{' '}
              {localised(step.image.alt, first, script.languages) || 'a picture'}
            </p>
          )}
        </div>
      );
    case 'end':
      return <Quote wording={step.wording} />;
    case 'listen': {
      const { hears } = step;
      const asked = hears.kind === 'value' ? hears.asked : null;
      const label = (key: string, otherwise: string): string => {
        const choice = hears.kind === 'choices' ? hears.choices.find((c) => c.id === key) : undefined;
        const intent = choice?.intentId
          ? view.intents.find((i) => i.id === choice.intentId)?.label.toLowerCase()
          : undefined;
        return choice
          ? [choice.key, localised(choice.label, first, script.languages) || 'unnamed', intent ? `· ${intent}` : '']
              .filter(Boolean)
              .join(' ')
          : otherwise;
      };
      const times = step.tries === 1 ? 'at once' : step.tries === 2 ? 'twice' : `${step.tries} times`;
      return (
        <div className="min-w-0">
          <Quote wording={step.wording} extra={`${step.tries} ${step.tries === 1 ? 'try' : 'tries'}`} />
          {(asked || step.into || step.notices.length > 0) && (
            <p className="text-small text-ink-2">
              {asked && (
                <>
                  {TYPES[asked.type]}
                  {asked.type === 'pattern' && ` ${asked.example || asked.pattern}`}
                  {asked.type === 'listed' &&
                    ` ${view.lists.find((l) => l.id === asked.listId)?.label ?? 'a list that is gone'}`}
                  {asked.type === 'whole' &&
                    (asked.least !== null || asked.most !== null) &&
                    ` ${asked.least ?? '…'} to ${asked.most ?? '…'}`}
                </>
              )}
              {step.into && (
                <>
                  {' '}
                  → <Value name={step.into.name} />
                  {step.into.scope === 'scene' && ' in this scene'}
                </>
              )}
              {step.notices.map((n) => (
                <span key={n.listId}>
                  {' '}
                  · notices <Value name={n.into.name} />
                </span>
              ))}
            </p>
          )}
          <Cues
            cues={[
              ...waysOf(step)
                .filter((w) => w.key !== 'otherwise')
                .map((w) => ({ label: label(w.key, w.label), cue: w.cue })),
              { label: `anything else, ${times}`, cue: step.otherwise },
            ]}
          />
        </div>
      );
    }
    case 'branch':
      return (
        <Cues
          cues={[
            ...step.ways.map((w) => ({ label: conditionSentence(w.when, thing), cue: w.cue })),
            { label: 'otherwise', cue: step.otherwise },
          ]}
        />
      );
    case 'look-up':
      return (
        <div className="min-w-0">
          <p>
            {step.source.from === 'connector'
              ? named(view.connectors, step.source.connectorId, 'a connector')
              : named(view.tables, step.source.tableId, 'a table')}{' '}
            by <Inputs inputs={step.inputs} />
            <Outputs outputs={step.outputs} />
            {step.tries > 1 && <span className="text-small text-ink-2"> · {step.tries} tries</span>}
            <SlowNote step={step} />
          </p>
          <Cues
            cues={[
              { label: 'found', cue: step.found },
              { label: 'not found', cue: step.notFound },
              { label: 'failed', cue: step.failed },
            ]}
          />
        </div>
      );
    case 'do':
      return (
        <div className="min-w-0">
          <p>
            {named(view.connectors, step.connectorId, 'a connector')} with <Inputs inputs={step.inputs} />
            <Outputs outputs={step.outputs} />
            <SlowNote step={step} />
          </p>
          <Cues
            cues={[
              { label: 'done', cue: step.done },
              { label: 'refused', cue: step.refused },
              { label: 'unsure', cue: step.unsure },
            ]}
          />
        </div>
      );
    case 'count':
      return (
        <div>
          {figureWords(step.figure, step.within ?? null)} in{' '}
          {step.queue.by === 'name' ? queue(step.queue.queueId) : <Value name={step.queue.name} />} →{' '}
          <Value name={step.into.name} />
          {mayBeUnknown(step) && <Cues cues={[{ label: 'not known', cue: step.unknown ?? { to: 'next' } }]} />}
        </div>
      );
    case 'remember':
      return (
        <p>
          {step.value === '' ? <span className="text-ink-3">nothing</span> : <Worded text={step.value} />} →{' '}
          <Value name={step.into.name} />
          {step.into.scope === 'scene' && <span className="text-small text-ink-2"> in this scene</span>}
        </p>
      );
    case 'identify':
      return (
        <div>
          <p>the customer by {step.by === null ? 'where they come from' : <Value name={step.by} />}</p>
          <Cues
            cues={[
              { label: 'known', cue: step.known },
              { label: 'unknown', cue: step.unknown },
            ]}
          />
        </div>
      );
    case 'hours':
      return (
        <div>
          <p>{step.hoursId === null ? 'those of the door' : named(view.hours, step.hoursId, 'hours')}</p>
          <Cues
            cues={[
              { label: 'open', cue: step.open },
              { label: 'closed', cue: step.closed },
            ]}
          />
        </div>
      );
    case 'text-them':
      return (
        <div className="min-w-0">
          <Quote wording={step.wording} extra={step.when === 'after' ? 'after the contact' : 'now'} />
          {step.to && (
            <p className="text-small text-ink-2">
              to <Value name={step.to} />
            </p>
          )}
        </div>
      );
    case 'call-back': {
      const times = [
        ...(step.soon ? ['as soon as possible'] : []),
        ...(step.windows > 0 ? [`${step.windows} ${step.windows === 1 ? 'window' : 'windows'}`] : []),
      ];
      return (
        <div className="min-w-0">
          <p>
            by {queue(step.queueId)}, on {step.number === null ? 'their own number' : <Value name={step.number} />} or
            another · {times.length === 0 ? 'no time at all' : times.join(' or ')}
            {step.attempts !== null && ` · tried ${step.attempts === 1 ? 'once' : `${step.attempts} times`}`}
          </p>
          {step.otherwise && <Cues cues={[{ label: 'nothing came of it', cue: step.otherwise }]} />}
        </div>
      );
    }
    case 'take-message':
      return (
        <div className="min-w-0">
          <Quote wording={step.wording} />
          <p className="text-small text-ink-2">becomes work for {queue(step.queueId)}</p>
        </div>
      );
    case 'articles':
      return (
        <div className="min-w-0">
          <Quote wording={step.wording} extra={`${step.tries} ${step.tries === 1 ? 'try' : 'tries'}`} />
          <Cues
            cues={[
              { label: 'answered', cue: step.done },
              { label: 'nothing fits', cue: step.nothing },
            ]}
          />
        </div>
      );
    case 'play':
      return (
        <p>
          {named(view.shared, step.sharedId, 'a shared scene')} and back
          {step.inputs.length > 0 && (
            <>
              {' '}
              with <Inputs inputs={step.inputs} />
            </>
          )}
        </p>
      );
    case 'go-to':
      return <Cues cues={[{ label: 'goes to', cue: step.cue }]} />;
    case 'hand-over': {
      const { target } = step;
      return (
        <div className="min-w-0">
          <p>
            to{' '}
            {target.to === 'queue' ? (
              queue(target.queueId)
            ) : target.to === 'queue-value' ? (
              <Value name={target.name} />
            ) : target.to === 'group' ? (
              named(view.groups, target.groupId, 'a group')
            ) : target.to === 'partner' ? (
              named(view.partners, target.partnerId, 'a partner desk')
            ) : target.person.by === 'id' ? (
              named(view.people, target.person.personId, 'a person')
            ) : target.person.by === 'last' ? (
              <b>who last dealt with them</b>
            ) : (
              <Value name={target.person.name} />
            )}
            {target.to !== 'queue' && <> in {queue(target.queueId)}</>}
            {needs(step.needs)}
            {step.priority > 0 && ` · priority ${step.priority}`}
            {step.fields.length > 0 && (
              <span className="text-small text-ink-2">
                {' '}
                · passes{' '}
                {step.fields.map((f) => (
                  <span key={f} className="mr-1">
                    <Value name={f} />
                  </span>
                ))}
              </span>
            )}
          </p>
          {Object.values(step.wording.text).some(Boolean) && (
            <span className="text-ink-2">
              <Quote wording={step.wording} />
            </span>
          )}
          {target.to === 'person' && (
            <Cues cues={[{ label: 'off duty', cue: target.off ?? { to: 'next' } }].filter(() => target.off !== null)} />
          )}
        </div>
      );
    }
  }
}
