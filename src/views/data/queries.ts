import { QueryClient, useQueries, useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { Contract } from '@/contract';
import type { Call, Got } from '@/contract/operation';
import { api } from './client';

/** What the parts of a page have asked the server, shared among them. A lost answer is asked for again by the client itself. */
const asking = () =>
	new QueryClient({ defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false, staleTime: 5000 } } });
export const queries = asking();
/** Where the server draws a page nothing is kept: what one was shown is not what the next is shown. */
const inTurn = (): QueryClient => (typeof window === 'undefined' ? asking() : queries);

/** Something was entered, here or elsewhere: what was asked is asked again. */
export const askAgain = (): Promise<void> => queries.invalidateQueries();

/** What is shown follows what is entered on this page and, told by the server, on others. */
export function useFollowing(): void {
	useEffect(() => {
		const changed = () => void askAgain();
		window.addEventListener('cordwain:changed', changed);
		return () => window.removeEventListener('cordwain:changed', changed);
	}, []);
}

type Questions = { [A in keyof Contract & string]: A extends `GET ${string}` ? A : never }[keyof Contract & string];

/**
 * Asks one operation of the contract while `when` holds, and keeps the answer.
 * @param first what the page came with
 */
export function useAsked<A extends Questions>(
	address: A,
	asked: Call<A, Contract[A]>,
	when = true,
	first?: Got<Contract[A]>,
) {
	return useQuery<Got<Contract[A]>, Error>(
		{
			queryKey: [address, asked],
			queryFn: () => (api as (a: A, c: Call<A, Contract[A]>) => Promise<Got<Contract[A]>>)(address, asked),
			enabled: when,
			...(first === undefined ? {} : { initialData: () => first }),
		},
		inTurn(),
	);
}

/** Asks one operation several times, as often as is wanted, and keeps each answer. */
export function useAskedAll<A extends Questions>(address: A, asked: readonly Call<A, Contract[A]>[]) {
	return useQueries(
		{
			queries: asked.map((one) => ({
				queryKey: [address, one],
				queryFn: () => (api as (a: A, c: Call<A, Contract[A]>) => Promise<Got<Contract[A]>>)(address, one),
			})),
		},
		inTurn(),
	);
}
