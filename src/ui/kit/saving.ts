'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { Refused, sentence, setting } from './call';

/** Saving one thing by a settings act: whether it runs, what was refused where, and the id it was saved under. */
export function useSaving(act: string) {
  const [busy, setBusy] = useState(false);
  const [faults, setFaults] = useState<Readonly<Record<string, string>>>({});
  const save = async (body: unknown, saved: string): Promise<string | null> => {
    setBusy(true);
    setFaults({});
    try {
      const { id } = await setting<{ id: string }>(act, body);
      toast.success(saved);
      return id;
    } catch (error) {
      if (error instanceof Refused) setFaults(Object.fromEntries(error.faults.map((f) => [f.where, f.what])));
      toast.error(sentence(error));
      return null;
    } finally {
      setBusy(false);
    }
  };
  return { busy, faults, save };
}
