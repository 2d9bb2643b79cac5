import { clsx } from 'clsx';
import { imagePath, type ShownImage } from '@/core/bots/conversation';
import { linkParts } from '@/core/messages/links';
import { asTime } from '../kit/figures';
import { Picture } from '../kit/picture';

type Line = {
  readonly seq: number;
  readonly from: 'customer' | 'bot' | 'person';
  readonly name: string;
  readonly text: string;
  readonly at: number;
  readonly line?: string | null;
  readonly image: ShownImage | null;
};

/** What was said: the customer on the left, we on the right; bots and people told apart by colour and name. */
export const Transcript = ({ messages, zone }: { messages: readonly Line[]; zone: string }) => (
  <ol className="flex flex-col gap-2">
    {messages.map((m) => (
      <li
        key={m.seq}
        className={clsx('flex max-w-[78%] flex-col', m.from === 'customer' ? 'self-start' : 'items-end self-end')}
      >
        <span
          className={clsx(
            'rounded-panel px-3 py-1.5 break-words whitespace-pre-wrap',
            m.from === 'customer'
              ? 'border border-rule bg-sheet'
              : m.from === 'bot'
                ? 'bg-sunk'
                : 'bg-mark-chat text-mark-ink',
          )}
        >
          {linkParts(m.text).map(({ text, href }, i) =>
            href === null ? (
              text
            ) : (
              <a key={i} href={href} target="_blank" rel="noopener noreferrer" className="underline">
                {text}
              </a>
            ),
          )}
          {m.image && <Picture src={imagePath(m.image.id)} alt={m.image.alt} />}
        </span>
        <span className="px-1 text-tiny text-ink-3">
          {m.name} {asTime(m.at, zone)}
          {m.line ? ` · line ${m.line}` : ''}
        </span>
      </li>
    ))}
  </ol>
);
