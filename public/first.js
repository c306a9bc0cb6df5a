// Before anything is drawn: the theme of this device.
document.documentElement.dataset.theme =
	localStorage.getItem('cordwain.theme') ??
	(matchMedia('(prefers-color-scheme: dark)').matches ? 'blackout' : 'limewash');
// A form sent before its script has taken over would load the page anew and lose what was typed.
document.addEventListener('submit', (e) => e.target.closest('astro-island[ssr]') && e.preventDefault(), true);
