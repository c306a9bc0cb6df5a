import { useRef, useState } from 'react';
import { sendFile } from '../data/client';

/** An archive of another installation, or of this one before, comes back as it was. */
export function BringBack() {
	const picker = useRef<HTMLInputElement>(null);
	const [busy, setBusy] = useState(false);
	const [problem, setProblem] = useState('');
	const bring = async (file: File | undefined) => {
		if (!file) return;
		setBusy(true);
		setProblem('');
		try {
			await sendFile('POST /restore', { data: file, type: 'application/zip' });
			location.assign('/');
		} catch (error) {
			setProblem((error as Error).message);
			setBusy(false);
		}
	};
	return (
		<div className="text-soft">
			<input
				ref={picker}
				type="file"
				accept=".zip,application/zip"
				className="sr-only"
				aria-label="Archive"
				tabIndex={-1}
				onChange={(e) => void bring(e.target.files?.[0])}
			/>
			Or{' '}
			<button
				type="button"
				className="underline cursor-pointer min-h-11 text-base-content"
				disabled={busy}
				onClick={() => picker.current?.click()}
			>
				bring an archive back
			</button>
			: everything as it was when it was taken out, from Files of another machine or from a backup.
			{busy && <p aria-live="polite">It is being brought back; a large book takes some minutes…</p>}
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
		</div>
	);
}
