import type { Phrasebook } from '@/core/phrases/book';
import { qualityOf } from '@/core/phrases/quality';

// Judging a book takes as long as learning it several times, so it is done beside the page.
self.onmessage = (event: MessageEvent<Phrasebook>) => {
  self.postMessage(qualityOf(event.data));
};
