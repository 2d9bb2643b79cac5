'use client';

import type { Mark } from '@/core/people/coaching';
import type { NoteView, RatingView } from '@/services/coaching/coachingviews';
import { doing } from '../kit/doing';
import { asDayTime, asShare } from '../kit/figures';
import { Link } from '../kit/link';
import { Pill } from '../kit/panel';

export const MARK_WORDS: Readonly<Record<Mark, string>> = {
  met: 'met',
  partly: 'partly',
  missed: 'missed',
  none: 'did not come up',
};
const TONES = { met: 'good', partly: 'warn', missed: 'bad', none: 'plain' } as const;

const Press = ({ children, onPress }: { children: string; onPress: () => void }) => (
  <button type="button" className="text-plum underline" onClick={onPress}>
    {children}
  </button>
);
const ReadBy = ({ shared, person }: { shared: boolean; person: string }) => (
  <Pill tone={shared ? 'tide' : 'plain'}>{shared ? `${person} reads it` : 'coaches only'}</Pill>
);

/** What a coach wrote. `onChanged` reads it anew; without it nothing can be done with it. `contacts` leads to its contact. */
export const Note = ({
  note,
  zone,
  contacts = false,
  onChanged,
}: {
  note: NoteView;
  zone: string;
  contacts?: boolean;
  onChanged?: () => void;
}) => {
  const act = (name: string, body: object, said: string) => void doing(name, body, said).then(onChanged);
  return (
    <li className="border-t border-rule py-2 text-small">
      <p className="break-words whitespace-pre-wrap">{note.words}</p>
      <p className="mt-0.5 flex flex-wrap items-center gap-x-2 gap-y-1 text-tiny text-ink-2">
        <span>
          {note.author}, {asDayTime(note.at, zone)}
          {note.person && !contacts && onChanged ? ` · about ${note.person}` : ''}
        </span>
        {note.person && onChanged && <ReadBy shared={note.shared} person={note.person} />}
        {note.toTalk && (
          <Pill tone={note.talkedAt === null ? 'warn' : 'good'}>
            {note.talkedAt === null ? 'to talk about' : `talked about ${asDayTime(note.talkedAt, zone)}`}
          </Pill>
        )}
        {contacts && note.contactId && (
          <Link className="text-plum underline" href={`/contacts/${encodeURIComponent(note.contactId)}`}>
            the contact
          </Link>
        )}
        {onChanged && note.toTalk && (
          <Press
            onPress={() =>
              act(
                'mark-talked',
                { id: note.id, talked: note.talkedAt === null },
                note.talkedAt === null ? 'Noted as talked about.' : 'It is to be talked about again.',
              )
            }
          >
            {note.talkedAt === null ? 'Talked about' : 'Not yet after all'}
          </Press>
        )}
        {onChanged && note.mine && (
          <Press onPress={() => act('drop-note', { id: note.id }, 'The note is gone.')}>Take away</Press>
        )}
      </p>
    </li>
  );
};

/** How a coach rated a conversation. */
export const Rating = ({
  rating,
  zone,
  contacts = false,
  onChanged,
}: {
  rating: RatingView;
  zone: string;
  contacts?: boolean;
  onChanged?: () => void;
}) => (
  <li className="border-t border-rule py-2 text-small">
    <p className="flex flex-wrap items-center gap-1.5">
      <b className="w-11 font-display tabular-nums">{asShare(rating.score)}</b>
      {rating.marks.map((mark) => (
        <Pill key={mark.pointId} tone={TONES[mark.mark]}>
          {mark.name}: {MARK_WORDS[mark.mark]}
        </Pill>
      ))}
    </p>
    {rating.words && <p className="mt-1 break-words whitespace-pre-wrap">{rating.words}</p>}
    <p className="mt-0.5 flex flex-wrap items-center gap-x-2 gap-y-1 text-tiny text-ink-2">
      <span>
        {rating.author}, {asDayTime(rating.at, zone)}
        {contacts || !onChanged ? '' : ` · ${rating.person}`}
      </span>
      {onChanged && <ReadBy shared={rating.shared} person={rating.person} />}
      {contacts && (
        <Link className="text-plum underline" href={`/contacts/${encodeURIComponent(rating.contactId)}`}>
          the contact
        </Link>
      )}
      {onChanged && rating.mine && (
        <Press onPress={() => void doing('drop-rating', { id: rating.id }, 'The rating is gone.').then(onChanged)}>
          Take away
        </Press>
      )}
    </p>
  </li>
);
