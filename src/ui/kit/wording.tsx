'use client';

import { useState } from 'react';
import { languageName, type Localised, missingLanguages } from '@/core/localised';
import { Area, Field } from './field';
import { Select } from './select';

/** Wording in one language at a time, with those that are missing said. */
export function WordingField({
  label,
  wording,
  languages,
  disabled = false,
  rows = 2,
  onChange,
}: {
  label: string;
  wording: Localised;
  languages: readonly string[];
  disabled?: boolean;
  rows?: number;
  onChange: (wording: Localised) => void;
}) {
  const [language, setLanguage] = useState(languages[0] ?? 'en');
  const missing = missingLanguages(wording, languages);
  return (
    <Field
      label={label}
      hint={missing.length > 0 ? `missing in ${missing.map(languageName).join(', ')}` : 'worded in every language'}
    >
      {(p) => (
        <span className="flex gap-2">
          <Area
            {...p}
            rows={rows}
            lang={language}
            disabled={disabled}
            maxLength={1000}
            value={wording[language] ?? ''}
            onChange={(e) => onChange({ ...wording, [language]: e.target.value })}
          />
          <Select
            aria-label={`Language of ${label.toLowerCase()}`}
            className="!w-28 self-start text-small"
            value={language}
            onChange={(chosen) => setLanguage(chosen)}
          >
            {languages.map((l) => (
              <option key={l} value={l}>
                {languageName(l)}
                {missing.includes(l) ? ' –' : ''}
              </option>
            ))}
          </Select>
        </span>
      )}
    </Field>
  );
}
