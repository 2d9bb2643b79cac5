import type { Reasons } from '@/services/floor/contactview';

/** A decision in sentences: the sentence first, then everybody else by reason. */
export const ReasonLines = ({ reasons }: { reasons: Reasons }) => (
  <div className="text-small">
    <p>{reasons.sentence}</p>
    <ul className="mt-1">
      {reasons.others.map((o) => (
        <li key={o.text} className="border-t border-rule py-1">
          <span className="font-medium">{o.text}</span>
          <span className="block truncate text-tiny text-ink-2" title={o.people}>
            {o.people}
          </span>
        </li>
      ))}
    </ul>
  </div>
);
