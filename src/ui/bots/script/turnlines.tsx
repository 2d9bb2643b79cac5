'use client';

import { clsx } from 'clsx';
import { type BotAct, imagePath, type ShownImage } from '@/core/bots/conversation';
import { lineNumber } from '@/core/bots/model';
import { trialCode, type Turn } from '@/core/bots/trial';
import type { Channel } from '@/core/channels';
import { spokenNumber } from '@/core/messages/spokennumber';
import type { Tried } from '@/services/bots/trials';
import { Picture } from '../../kit/picture';

const words = (turn: Turn): string | null =>
  turn.input.type === 'text'
    ? turn.input.text
    : turn.input.type === 'key'
      ? turn.input.key
      : turn.input.type === 'silence'
        ? '(silence)'
        : null;

export function TurnLines({
  turn,
  channel,
  script,
  connectorName,
  intentName,
}: {
  turn: Tried['turns'][number];
  channel: Channel;
  script: Parameters<typeof lineNumber>[0];
  connectorName: (id: string) => string;
  intentName: (id: string) => string;
}) {
  const said = words(turn);
  const notes: string[] = [];
  const lines: { from: 'bot' | 'note' | 'text'; text: string; image?: ShownImage | null }[] = [];
  let reply = 0;
  const note = (a: BotAct): void => {
    switch (a.type) {
      case 'heard':
        notes.push(
          a.understood
            ? a.intent
              ? `heard ${intentName(a.intent.id)} ${a.intent.confidence.toFixed(2)}`
              : `understood at ${lineNumber(script, a.lineId) ?? 'a shared scene'}`
            : 'not understood',
        );
        break;
      case 'remember':
        notes.push(`${a.name} = ${String(a.value)}`);
        break;
      case 'language':
        notes.push(`goes on in ${a.language}`);
        break;
      case 'request': {
        const got = turn.replies[reply++];
        if (a.request.ask === 'look-up' && got?.to === 'look-up')
          notes.push(
            `${connectorName(a.request.source.from === 'connector' ? a.request.source.connectorId : a.request.source.tableId)}: ` +
              `${got.outcome.replace('-', ' ')}${turn.slow ? ', slowly' : ''}`,
          );
        else if (a.request.ask === 'do' && got?.to === 'do')
          notes.push(`${connectorName(a.request.connectorId)}: ${got.outcome} (not really sent)`);
        else if (a.request.ask === 'article' && got?.to === 'article')
          notes.push(got.article ? `article: ${got.article.title}` : 'no article fits');
        break;
      }
      default:
        break;
    }
  };
  const flush = (): void => {
    if (notes.length > 0) lines.push({ from: 'note', text: notes.splice(0).join(' · ') });
  };
  for (const a of turn.acts) {
    if (a.type === 'say') {
      flush();
      lines.push({ from: 'bot', text: a.text, image: a.image });
    } else if (a.type === 'text') {
      flush();
      lines.push({ from: 'text', text: `SMS ${a.when === 'after' ? 'after the contact' : 'now'}: ${a.text}` });
    } else if (a.type === 'message') notes.push('message kept as work for a queue');
    else if (a.type === 'promise') notes.push(`a call promised to ${spokenNumber(a.number)}`);
    else if (a.type === 'send-code') notes.push(`the code ${trialCode(a.number)} is sent to ${spokenNumber(a.number)}`);
    else if (a.type === 'hand-over' && a.because) notes.push(`failed: ${a.because}`);
    else note(a);
  }
  flush();
  return (
    <>
      {said !== null && (
        <li
          className={clsx(
            'max-w-[85%] self-end rounded-panel bg-mark-chat px-3 py-1.5 [overflow-wrap:anywhere] whitespace-pre-wrap text-mark-ink',
            turn.input.type === 'silence' && 'opacity-60',
          )}
        >
          {said}
        </li>
      )}
      {lines.map((l, i) =>
        l.from === 'note' ? (
          <li key={i} className="self-end text-right text-tiny text-ink-2">
            {l.text}
          </li>
        ) : (
          <li
            key={i}
            className={clsx(
              'max-w-[85%] self-start rounded-panel border px-3 py-1.5 [overflow-wrap:anywhere] whitespace-pre-wrap',
              l.from === 'text' ? 'border-dashed border-rule-strong text-small' : 'border-rule bg-sheet',
              channel === 'voice' && 'italic',
            )}
          >
            {l.text}
            {l.image && <Picture src={imagePath(l.image.id)} alt={l.image.alt} />}
          </li>
        ),
      )}
    </>
  );
}
