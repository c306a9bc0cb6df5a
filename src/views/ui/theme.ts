import { useEffect, useState } from 'react';

const THEME_NAMES = [
	'--q-ph',
	'--q-ec',
	'--q-temp',
	'--q-level',
	'--q-do',
	'--q-air',
	'--q-ion',
	'--q-root',
	'--color-base-content',
	'--color-base-300',
	'--color-base-100',
	'--zone',
	'--soft',
	'--color-warning',
	'--color-error',
];

function readTheme(): Record<string, string> {
	const style = getComputedStyle(document.documentElement);
	return Object.fromEntries(THEME_NAMES.map((n) => [n, style.getPropertyValue(n).trim()]));
}

/** The theme's colours as they are now, since a chart cannot follow CSS variables by itself. */
export function useTheme(): Record<string, string> {
	const [theme, setTheme] = useState<Record<string, string>>({});
	useEffect(() => {
		setTheme(readTheme());
		const watch = new MutationObserver(() => setTheme(readTheme()));
		watch.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
		return () => watch.disconnect();
	}, []);
	return theme;
}
