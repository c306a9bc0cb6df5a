/**
 * Work of which one run goes at a time: whoever asks meanwhile has it run once more afterwards, which sees what they have stored.
 * @param failed hears of what a run throws; it is asked for again by the next change
 */
export function oneAtATime(work: () => Promise<void>, failed: (error: unknown) => void): () => Promise<void> {
	let running = false;
	let again = false;
	return async () => {
		if (running) {
			again = true;
			return;
		}
		running = true;
		try {
			do {
				again = false;
				await work();
			} while (again);
		} catch (error) {
			failed(error);
		} finally {
			running = false;
		}
	};
}
