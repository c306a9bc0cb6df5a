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

const TAB = 'cordwain.tab-site';
/** The site that this tab was at last. Whoever goes to another on purpose forgets it first. */
export const siteOfTab = {
	read: (): { id: number; name: string } | null => JSON.parse(sessionStorage.getItem(TAB) ?? 'null'),
	keep: (site: { id: number; name: string }): void => sessionStorage.setItem(TAB, JSON.stringify(site)),
	forget: (): void => sessionStorage.removeItem(TAB),
};
