'use client';

import { toast } from 'sonner';
import type { CustomerView } from '@/services/customers/customers';
import { sentence, setting } from '../kit/call';
import { useLive } from '../kit/live';

/** A customer as they are known now, and how that is changed. `shown` is how many contacts of theirs are read. */
export function useCustomer(id: string, shown: number, initial?: CustomerView) {
  const { data, error, refetch } = useLive<CustomerView>(
    `/api/read/customer?${new URLSearchParams({ id, shown: String(shown) }).toString()}`,
    ['customer.joined', 'customer.parted', 'contact.started', 'contact.ended', 'leg.began', 'leg.ended'],
    initial,
  );
  /** Carries out an act and reads anew; gives whether it was done. */
  const change = async (act: string, input: object, done?: string): Promise<boolean> => {
    try {
      await setting(act, input);
      if (done) toast.success(done);
      return true;
    } catch (failed) {
      toast.error(sentence(failed));
      return false;
    } finally {
      await refetch();
    }
  };
  return { customer: data, error, change };
}
export type Change = ReturnType<typeof useCustomer>['change'];
