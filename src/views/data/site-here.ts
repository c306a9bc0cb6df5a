/** The number of the site that this page shows, as the server said it (layouts/Head); null before there is one. */
export function siteHere(): number | null {
	if (typeof document === 'undefined') return null;
	const said = document.querySelector<HTMLMetaElement>('meta[name=cordwain-site]')?.content;
	return said ? Number(said) : null;
}

/** Under which name something of this site is kept on this device: what is half typed at one is not seen at another. */
export const ofSiteHere = (name: string): string => `${name}.${siteHere() ?? 0}`;

/** The same address, for the site of this page whatever another tab shows meanwhile. */
export function atSiteHere(address: string): string {
	const site = siteHere();
	return site === null ? address : `${address}${address.includes('?') ? '&' : '?'}site=${site}`;
}
