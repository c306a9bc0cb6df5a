import { useEffect, useState } from 'react';
import { siteHere, siteOfTab } from '../data/site-here';

/**
 * Which site is shown goes by the device and not by the tab: where another tab went elsewhere meanwhile, the next page of this one is of
 * that site too. It says so before anything is entered at the wrong place.
 */
export function TabSite({ siteName }: { siteName: string }) {
	const [left, setLeft] = useState<{ id: number; name: string } | null>(null);
	useEffect(() => {
		const id = siteHere();
		if (id === null) return;
		const before = siteOfTab.read();
		if (before && before.id !== id) setLeft(before);
		else siteOfTab.keep({ id, name: siteName });
	}, [siteName]);
	if (left === null) return null;
	const back = new URL(location.href);
	back.searchParams.set('site', String(left.id));
	return (
		<div className="bg-lit border-b border-line no-print" role="alert" data-tab-site>
			<p className="max-w-[1280px] mx-auto px-4 sm:px-5 py-1 flex flex-wrap gap-x-3 items-center">
				<span>
					This is <strong>{siteName}</strong> now: another tab went there. What you enter is kept there.
				</span>
				<a className="act inline-flex items-center" href={`${back.pathname}${back.search}`}>
					Back to {left.name}
				</a>
				<button
					type="button"
					className="act !font-normal"
					onClick={() => {
						siteOfTab.keep({ id: siteHere()!, name: siteName });
						setLeft(null);
					}}
				>
					Stay
				</button>
			</p>
		</div>
	);
}
