import type { ReactNode } from 'react';
import { openEvent, openReading } from './opens';

const LOOK = 'underline cursor-pointer min-h-8 text-left';

/** What stands for a reading, and opens it; plain text where no reading is behind it. */
export function OpensReading({ id, children }: { id: number | null; children: ReactNode }) {
	if (id === null) return <>{children}</>;
	return (
		<button type="button" className={LOOK} data-open-reading={id} onClick={() => openReading(id)}>
			{children}
		</button>
	);
}

/** What stands for an event, and opens it. */
export function OpensEvent({ id, children }: { id: number; children: ReactNode }) {
	return (
		<button type="button" className={LOOK} data-open-event={id} onClick={() => openEvent(id)}>
			{children}
		</button>
	);
}
