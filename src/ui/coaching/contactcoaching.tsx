'use client';

import { useState } from 'react';
import { DRAW_WORDS } from '@/core/people/coaching';
import type { ContactCoachingView } from '@/services/coaching/coachingviews';
import { Button } from '../kit/button';
import { useLive } from '../kit/live';
import { Panel } from '../kit/panel';
import { NoteDialog } from './notedialog';
import { RateDialog } from './ratedialog';
import { Note, Rating } from './said';

/** What coaches said of a contact, and where they say it. `over`: a conversation that goes on is not rated. */
export function ContactCoaching({ contactId, over, zone }: { contactId: string; over: boolean; zone: string }) {
  const [open, setOpen] = useState<'note' | 'rating' | null>(null);
  const { data, error, refetch } = useLive<ContactCoachingView>(
    `/api/read/contact-coaching?id=${encodeURIComponent(contactId)}`,
    [],
  );
  const again = () => void refetch();
  const close = () => setOpen(null);
  return (
    <Panel className="p-4" label="Coaching">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="text-panel">Coaching</h2>
        {data && (
          <span className="ml-auto flex gap-2">
            {over && data.people.length > 0 && (
              <Button small onClick={() => setOpen('rating')}>
                Rate it…
              </Button>
            )}
            <Button small onClick={() => setOpen('note')}>
              Write a note…
            </Button>
          </span>
        )}
      </div>
      {!data && (
        <p className="text-small text-ink-2" role={error ? 'alert' : undefined}>
          {error ? 'It cannot be read just now.' : 'Reading…'}
        </p>
      )}
      {data?.drawn.map((draw) => (
        <p key={draw.personId} className="mt-1 text-small text-ink-2">
          Drawn to be rated for {draw.person}: {DRAW_WORDS[draw.why]}.
        </p>
      ))}
      {data && data.notes.length + data.ratings.length === 0 && (
        <p className="mt-1 text-small text-ink-2">Nothing was noted or rated yet.</p>
      )}
      {data && (
        <ul className="mt-1">
          {data.ratings.map((rating) => (
            <Rating key={rating.id} rating={rating} zone={zone} onChanged={again} />
          ))}
          {data.notes.map((note) => (
            <Note key={note.id} note={note} zone={zone} onChanged={again} />
          ))}
        </ul>
      )}
      {data && open === 'note' && (
        <NoteDialog people={data.people} contactId={contactId} onClose={close} onChanged={again} />
      )}
      {data && open === 'rating' && (
        <RateDialog
          people={data.people}
          contactId={contactId}
          points={data.points}
          ratings={data.ratings}
          onClose={close}
          onChanged={again}
        />
      )}
    </Panel>
  );
}
