import { useEffect, useState } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import { emptyDraft, keepDraft, keptDraft, typedSomething } from './draft';

/** What is being typed at Bench: taken up where it was left on this device, and kept while it is typed. */
export function useDraft(site: SiteView, start: string, asked: string | null) {
	const [draft, setDraft] = useState(() => emptyDraft(site, start));
	useEffect(() => {
		const kept = keptDraft(site);
		if (kept && (!asked || kept.station === asked)) setDraft(kept);
	}, [asked, site]);
	useEffect(() => {
		if (typedSomething(draft)) keepDraft(draft);
	}, [draft]);
	return [draft, setDraft] as const;
}
