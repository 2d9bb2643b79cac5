'use client';

import { Button } from '../../kit/button';
import { Select } from '../../kit/select';
import { useAround } from './around';
import { Row } from './pieces';

/** The fields that go along to a person, which their Desk shows. */
export function PassedFields({
  fields,
  onChange,
}: {
  fields: readonly string[];
  onChange: (fields: readonly string[]) => void;
}) {
  const { view } = useAround();
  const unused = view.fields.filter((f) => !fields.includes(f.name));
  return (
    <Row label="Passes fields">
      {fields.map((name) => (
        <span key={name} className="inline-flex items-center rounded-control border border-rule px-2 py-0.5 text-small">
          {view.fields.find((f) => f.name === name)?.label ?? `${name} (gone)`}
          <Button
            small
            kind="quiet"
            aria-label={`Stop passing ${name}`}
            onClick={() => onChange(fields.filter((f) => f !== name))}
          >
            ×
          </Button>
        </span>
      ))}
      {unused.length > 0 && (
        <Select
          aria-label="Add a field"
          className="!w-40 !py-1 text-small"
          value=""
          onChange={(chosen) => {
            if (chosen) onChange([...fields, chosen]);
          }}
        >
          <option value="">pass a field…</option>
          {unused.map((f) => (
            <option key={f.id} value={f.name}>
              {f.label}
            </option>
          ))}
        </Select>
      )}
    </Row>
  );
}
