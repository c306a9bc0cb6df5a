import { type RefObject, useEffect } from 'react';

/** Where two fingers are, as shares of the width. */
export interface Fingers {
	left: number;
	right: number;
}

/**
 * What two fingers ask for: what lay under them lies under them again.
 * @returns where the ends of what is shown come to lie, as shares of what was shown
 * @example pinched({ left: 0.25, right: 0.75 }, { left: 0, right: 1 }) // { from: 0.25, to: 0.75 }
 */
export function pinched(began: Fingers, ended: Fingers): { from: number; to: number } {
	const times = (began.right - began.left) / (ended.right - ended.left);
	const from = began.left - ended.left * times;
	return { from, to: from + times };
}

/** Fingers nearer to one another than this tell no width. */
const LEAST_APART = 0.04;

/** Two fingers on a chart move and widen what it shows; it follows them and is drawn anew when they leave. */
export function usePinch(ref: RefObject<HTMLElement | null>, onPinch: (from: number, to: number) => void): void {
	useEffect(() => {
		const box = ref.current;
		if (!box) return;
		let began: Fingers | null = null;
		let now: Fingers | null = null;
		const fingers = (touches: TouchList): Fingers => {
			const { left, width } = box.getBoundingClientRect();
			const x = [...touches].slice(0, 2).map((t) => (t.clientX - left) / width);
			const [a, b] = [Math.min(...x), Math.max(...x)];
			return { left: a, right: Math.max(b, a + LEAST_APART) };
		};
		const begin = (e: TouchEvent) => {
			if (e.touches.length !== 2) return;
			e.preventDefault();
			began = fingers(e.touches);
			now = began;
		};
		const move = (e: TouchEvent) => {
			if (!began || e.touches.length !== 2) return;
			e.preventDefault();
			now = fingers(e.touches);
			const { from, to } = pinched(began, now);
			const times = 1 / (to - from);
			box.style.transformOrigin = '0 0';
			box.style.transform = `translateX(${-from * times * 100}%) scaleX(${times})`;
		};
		const end = (e: TouchEvent) => {
			if (!began || !now || e.touches.length >= 2) return;
			const { from, to } = pinched(began, now);
			began = null;
			box.style.transform = '';
			if (Math.abs(to - from - 1) > 0.02 || Math.abs(from) > 0.02) onPinch(from, to);
		};
		const passive = { passive: false } as const;
		box.addEventListener('touchstart', begin, passive);
		box.addEventListener('touchmove', move, passive);
		box.addEventListener('touchend', end);
		box.addEventListener('touchcancel', end);
		return () => {
			box.removeEventListener('touchstart', begin);
			box.removeEventListener('touchmove', move);
			box.removeEventListener('touchend', end);
			box.removeEventListener('touchcancel', end);
		};
	}, [ref, onPinch]);
}
