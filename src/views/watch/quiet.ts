/** Quiet hours as people write them: `22:00–06:30`. */
const TIME = /^(\d{1,2})(?:[:.](\d{2}))?$/;

function minuteFrom(text: string): number | undefined {
	const m = TIME.exec(text.trim());
	if (!m) return undefined;
	const [h, min] = [Number(m[1]), Number(m[2] ?? 0)];
	return h <= 23 && min <= 59 ? 60 * h + min : undefined;
}

/** null where nothing is written, undefined where it cannot be understood. */
export function quietFrom(text: string): { from: number; to: number } | null | undefined {
	if (text.trim() === '') return null;
	const [from, to, more] = text.split(/[–—-]|\bto\b/).map(minuteFrom);
	return from === undefined || to === undefined || more !== undefined || from === to ? undefined : { from, to };
}

const clock = (minute: number): string =>
	`${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
export const quietText = (quiet: { from: number; to: number } | null): string =>
	quiet ? `${clock(quiet.from)}–${clock(quiet.to)}` : '';
