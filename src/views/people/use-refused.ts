import { useState } from 'react';
import { ApiProblem } from '../data/client';

/** Sends, and keeps what was refused by the field it stands at; under no name what belongs to none. */
export function useRefused() {
	const [wrong, setWrong] = useState<Record<string, string>>({});
	const [busy, setBusy] = useState(false);
	const attempt = async (work: () => Promise<unknown>): Promise<boolean> => {
		setBusy(true);
		setWrong({});
		try {
			await work();
			return true;
		} catch (error) {
			const errors = error instanceof ApiProblem ? error.errors : [];
			setWrong(
				errors.length > 0
					? Object.fromEntries(errors.map((e) => [e.path, e.message]))
					: { '': (error as Error).message },
			);
			return false;
		} finally {
			setBusy(false);
		}
	};
	return { wrong, busy, attempt };
}
