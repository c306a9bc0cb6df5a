import { useState } from 'react';
import { sendable } from '../data/picture';
import { follow } from '../data/queue';
import { FilePick } from './FilePick';

/** Photos of an event that still waits on this device: they wait behind it, and are sent after it. */
export function AttachWaiting({ to }: { to: string }) {
	const [s, set] = useState({ busy: false, words: '', wrong: false });
	const add = async (files: readonly File[]) => {
		set({ busy: true, words: '', wrong: false });
		try {
			for (const file of files)
				if (!(await follow(to, await sendable(file), file.name)))
					throw new Error('What it belongs to has been sent meanwhile: open it in the Ledger to add a photo.');
			set({ busy: false, words: 'Kept on this device; it is sent after what it belongs to.', wrong: false });
		} catch (error) {
			set({ busy: false, words: (error as Error).message, wrong: true });
		}
	};
	return (
		<div data-attach-waiting>
			<FilePick busy={s.busy} onPick={add} />
			<p aria-live="polite" className={s.wrong ? 'text-error' : 'text-soft'}>
				{s.words}
			</p>
		</div>
	);
}
