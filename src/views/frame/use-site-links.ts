import { useEffect } from 'react';
import { isOfApi } from '../data/client';
import { atSiteHere } from '../data/site-here';

/** A download is of the site of this page, whatever another tab shows meanwhile. */
export function useSiteLinks(): void {
	useEffect(() => {
		const onClick = (e: MouseEvent) => {
			const link = (e.target as Element).closest?.('a');
			const address = link?.getAttribute('href');
			if (link && address && isOfApi(address) && !/[?&]site=/.test(address))
				link.setAttribute('href', atSiteHere(address));
		};
		document.addEventListener('click', onClick, true);
		return () => document.removeEventListener('click', onClick, true);
	}, []);
}
