'use client';

import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { UnderWay as UnderWayView } from '@/services/workspace/undopress';
import { Button } from '../kit/button';
import { call, sentence, setting } from '../kit/call';
import { asCount } from '../kit/figures';
import { Progress } from '../kit/progress';

export const UNDER_WAY = ['press-under-way'];

/** A press that takes a while, somebody else's too: how far it is, and called off while nothing of it counts yet. */
export function UnderWay() {
  const { data } = useQuery({
    queryKey: UNDER_WAY,
    queryFn: () => call<UnderWayView | null>('/api/read/press-under-way'),
    refetchInterval: ({ state }) => (state.data ? 300 : 1500),
  });
  if (!data) return null;
  const stop = async () => {
    try {
      await setting('stop-press', { id: data.id });
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  return (
    <div className="mt-2 flex items-center gap-3 rounded-control bg-brass-wash px-3 py-1.5" role="status">
      <span className="text-small font-medium">{data.title}</span>
      <Progress
        says={`${data.phase === 'gathering' ? 'Looking through' : 'Done'} ${asCount(data.done)} of ${asCount(data.total)}`}
        done={data.done}
        total={data.total}
      />
      {data.canStop ? (
        <Button small onClick={() => void stop()}>
          Cancel
        </Button>
      ) : (
        <span className="text-tiny text-ink-2">Other changes wait until it is done.</span>
      )}
    </div>
  );
}
