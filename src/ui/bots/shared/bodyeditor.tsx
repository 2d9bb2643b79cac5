'use client';

import { BODY_DEPTH, BODY_KINDS, type BodyPart } from '@/core/bots/bodies';
import { Button } from '../../kit/button';
import { Input } from '../../kit/field';
import { options, Select } from '../../kit/select';

const KIND_NAMES: Readonly<Record<BodyPart['is'], string>> = {
  object: 'object',
  list: 'list',
  input: 'input',
  text: 'text',
  number: 'number',
  'yes-no': 'yes or no',
};

const made = (is: BodyPart['is'], inputs: readonly string[]): BodyPart => {
  switch (is) {
    case 'object':
      return { is, fields: [] };
    case 'list':
      return { is, items: [] };
    case 'input':
      return { is, name: inputs[0] ?? '' };
    case 'text':
      return { is, text: '' };
    case 'number':
      return { is, number: 0 };
    case 'yes-no':
      return { is, yes: true };
  }
};

/** A part of a body, with all that stands within it; `at` is where it stands, as people read it. */
export function BodyEditor({
  part,
  inputs,
  at = 'The body',
  depth = 1,
  onChange,
}: {
  part: BodyPart;
  inputs: readonly string[];
  at?: string;
  depth?: number;
  onChange: (part: BodyPart) => void;
}) {
  const kinds = BODY_KINDS.filter((k) => depth < BODY_DEPTH || (k !== 'object' && k !== 'list'));
  const small = '!w-44 !py-0.5 text-small';
  return (
    <div className="flex min-w-0 flex-1 flex-col gap-1">
      <span className="flex flex-wrap items-center gap-1.5">
        <Select
          aria-label={`${at} is`}
          className="!w-28 !py-0.5 text-small"
          value={part.is}
          onChange={(chosen) => onChange(made(chosen as BodyPart['is'], inputs))}
        >
          {options(kinds, (k) => KIND_NAMES[k])}
        </Select>
        {part.is === 'input' && (
          <Select
            aria-label={`${at}: input`}
            className={small}
            value={part.name}
            onChange={(name) => onChange({ ...part, name })}
          >
            {!inputs.includes(part.name) && <option value={part.name}>{part.name || 'choose an input'}</option>}
            {options(inputs)}
          </Select>
        )}
        {part.is === 'text' && (
          <Input
            aria-label={`${at}: text`}
            className={small}
            maxLength={1000}
            placeholder="with {inputs}"
            value={part.text}
            onChange={(e) => onChange({ ...part, text: e.target.value })}
          />
        )}
        {part.is === 'number' && (
          <Input
            aria-label={`${at}: number`}
            type="number"
            step="any"
            className={small}
            value={part.number}
            onChange={(e) => {
              if (!Number.isNaN(e.target.valueAsNumber)) onChange({ ...part, number: e.target.valueAsNumber });
            }}
          />
        )}
        {part.is === 'yes-no' && (
          <Select
            aria-label={`${at}: yes or no`}
            className="!w-28 !py-0.5 text-small"
            value={part.yes ? 'yes' : 'no'}
            onChange={(chosen) => onChange({ ...part, yes: chosen === 'yes' })}
          >
            <option value="yes">yes</option>
            <option value="no">no</option>
          </Select>
        )}
        {part.is === 'object' && (
          <Button
            small
            onClick={() => onChange({ ...part, fields: [...part.fields, { name: '', value: made('input', inputs) }] })}
            aria-label={`Add a field to ${at}`}
          >
            Add a field
          </Button>
        )}
        {part.is === 'list' && (
          <Button
            small
            onClick={() => onChange({ ...part, items: [...part.items, made('input', inputs)] })}
            aria-label={`Add an item to ${at}`}
          >
            Add an item
          </Button>
        )}
      </span>
      {part.is === 'object' && part.fields.length > 0 && (
        <ul className="ml-3 flex flex-col gap-1 border-l-2 border-rule pl-3">
          {part.fields.map((field, i) => (
            <li key={i} className="flex items-start gap-1.5">
              <Input
                aria-label={`${at}: name of field ${i + 1}`}
                className="!w-36 !py-0.5 font-mono text-small"
                maxLength={60}
                required
                autoFocus={field.name === ''}
                value={field.name}
                onChange={(e) =>
                  onChange({
                    ...part,
                    fields: part.fields.map((f, j) => (j === i ? { ...f, name: e.target.value } : f)),
                  })
                }
              />
              <Button
                small
                kind="quiet"
                aria-label={`Take ${field.name || `field ${i + 1}`} out`}
                onClick={() => onChange({ ...part, fields: part.fields.filter((_, j) => j !== i) })}
              >
                ×
              </Button>
              <BodyEditor
                part={field.value}
                inputs={inputs}
                at={field.name || `Field ${i + 1}`}
                depth={depth + 1}
                onChange={(value) =>
                  onChange({ ...part, fields: part.fields.map((f, j) => (j === i ? { ...f, value } : f)) })
                }
              />
            </li>
          ))}
        </ul>
      )}
      {part.is === 'list' && part.items.length > 0 && (
        <ol className="ml-3 flex flex-col gap-1 border-l-2 border-rule pl-3">
          {part.items.map((item, i) => (
            <li key={i} className="flex items-start gap-1.5">
              <Button
                small
                kind="quiet"
                aria-label={`Take item ${i + 1} out of ${at}`}
                onClick={() => onChange({ ...part, items: part.items.filter((_, j) => j !== i) })}
              >
                ×
              </Button>
              <BodyEditor
                part={item}
                inputs={inputs}
                at={`${at}, item ${i + 1}`}
                depth={depth + 1}
                onChange={(value) => onChange({ ...part, items: part.items.map((x, j) => (j === i ? value : x)) })}
              />
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}
