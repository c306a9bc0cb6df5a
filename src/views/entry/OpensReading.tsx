import type { ReactNode } from 'react';
import { openReading } from './open-reading';

/** What stands for a reading, and opens it; plain text where no reading is behind it. */
export function OpensReading({ id, children }: { id: number | null; children: ReactNode }) {
	if (id === null) return <>{children}</>;
	return (
		<button
			type="button"
			className="underline cursor-pointer min-h-8"
			data-open-reading={id}
			onClick={() => openReading(id)}
		>
			{children}
		</button>
	);
}
