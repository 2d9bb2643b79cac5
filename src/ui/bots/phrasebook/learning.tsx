'use client';

import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { LearningNow } from '@/services/bots/learner';
import { Button } from '../../kit/button';
import { call, sentence, setting } from '../../kit/call';
import { Progress } from '../../kit/progress';

/** How far learning is, while something is being learnt; one's own can be stopped, and nothing of it is kept then. */
export function Learning({ says = 'Learning' }: { says?: string }) {
  const { data } = useQuery({
    queryKey: ['book-learning'],
    queryFn: () => call<LearningNow>('/api/read/book-learning'),
    refetchInterval: 300,
  });
  const stop = async () => {
    try {
      await setting('stop-learning', {});
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  return (
    <div className="flex flex-wrap items-center gap-3" role="status">
      <Progress
        says={data ? `${says}, ${Math.floor(data.share * 100)}%` : says}
        done={Math.round((data?.share ?? 0) * 100)}
        total={data ? 100 : 0}
      />
      {data?.mine && (
        <Button small onClick={() => void stop()}>
          Stop
        </Button>
      )}
    </div>
  );
}
