import { useState } from 'react';
import { askAgain } from './queries';

/** Tries something and says what became of it: in words where it was done, why where it was not. */
export function useAttempt() {
	const [{ said, problem }, say] = useState({ said: '', problem: '' });
	const attempt = async (words: string, work: () => Promise<unknown>): Promise<boolean> => {
		try {
			await work();
			await askAgain();
			say({ said: words, problem: '' });
			return true;
		} catch (error) {
			say({ said: '', problem: (error as Error).message });
			return false;
		}
	};
	return { said, problem, attempt };
}
export type Attempt = ReturnType<typeof useAttempt>['attempt'];
