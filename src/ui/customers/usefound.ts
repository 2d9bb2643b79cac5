'use client';

import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { FoundCustomer } from '@/services/customers/customers';
import { call } from '../kit/call';

/** How long after the last letter customers are looked for, ms. */
const SETTLE_MS = 200;

/** Customers like what is typed; none until two letters are. */
export function useFoundCustomers(typed: string, may = true) {
  const [text, setText] = useState('');
  useEffect(() => {
    const timer = setTimeout(() => setText(typed.trim()), SETTLE_MS);
    return () => clearTimeout(timer);
  }, [typed]);
  const asks = may && text.length >= 2;
  const { data, isFetching } = useQuery({
    queryKey: ['find-customers', text],
    queryFn: () =>
      call<{ found: FoundCustomer[] }>(`/api/read/find-customers?${new URLSearchParams({ text }).toString()}`),
    enabled: asks,
    staleTime: 5000,
  });
  return { found: asks ? (data?.found ?? []) : [], looking: typed.trim() !== text || (asks && isFetching) };
}
