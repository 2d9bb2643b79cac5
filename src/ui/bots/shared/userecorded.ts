'use client';

import { useCallback, useMemo } from 'react';
import { sameWords, spokenParts } from '@/core/sound/recorded';
import type { RecordingsView } from '@/services/bots/recordings';
import { useLive } from '../../kit/live';

type Heard = readonly { readonly text: string; readonly recording: string | null }[];

/** How words are heard on a call as things are now: part by part, each with the address of its recording. */
export function useRecorded(): (text: string, language: string) => Heard {
  const { data } = useLive<RecordingsView>('/api/read/recordings', ['settings.changed']);
  const found = useMemo(
    () =>
      new Map(
        (data?.words ?? []).flatMap((w) =>
          w.recording
            ? [[`${w.language} ${sameWords(w.text)}`, { id: w.recording.url, seconds: w.recording.seconds }] as const]
            : [],
        ),
      ),
    [data],
  );
  return useCallback(
    (text, language) =>
      spokenParts(text, language, (l, words) => found.get(`${l} ${words}`) ?? null).map((p) => ({
        text: p.text,
        recording: p.recorded?.id ?? null,
      })),
    [found],
  );
}
