import { type TouchEvent, useRef } from 'react';

/** Further than this, and twice as far across as down, is a swipe and no scroll. */
const FAR_PX = 80;

/** A finger that goes across: on to the next, or back to the one before. */
export function useSwipe(move: (step: 1 | -1) => void) {
	const touch = useRef<{ x: number; y: number } | null>(null);
	return {
		onTouchStart: (e: TouchEvent) => {
			const t = e.touches[0];
			touch.current = t ? { x: t.clientX, y: t.clientY } : null;
		},
		onTouchEnd: (e: TouchEvent) => {
			const t = e.changedTouches[0];
			const from = touch.current;
			if (!t || !from) return;
			const dx = t.clientX - from.x;
			if (Math.abs(dx) > FAR_PX && Math.abs(dx) > 2 * Math.abs(t.clientY - from.y)) move(dx < 0 ? 1 : -1);
		},
	};
}
