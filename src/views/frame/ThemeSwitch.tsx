import { useEffect, useState } from 'react';

/** Bright for the glasshouse, dim for a dark room; kept on this device. */
export function ThemeSwitch() {
	const [theme, setTheme] = useState('limewash');
	useEffect(() => setTheme(document.documentElement.dataset.theme ?? 'limewash'), []);
	const other = theme === 'limewash' ? 'blackout' : 'limewash';
	return (
		<button
			type="button"
			className="text-soft text-[0.85rem] cursor-pointer underline underline-offset-4"
			onClick={() => {
				document.documentElement.dataset.theme = other;
				localStorage.setItem('cordwain.theme', other);
				setTheme(other);
			}}
		>
			{theme === 'limewash' ? 'Dim for a dark room' : 'Daylight'}
		</button>
	);
}
