import { Suspense, useCallback, useEffect, useState } from 'react';
import type { Me } from '@/contract/people';
import type { SiteView } from '@/core/reading/site-view';
import { type Held, unheld } from '../data/held';
import { keepPages } from '../data/offline';
import { onStoredLater } from '../data/queue';
import { takeBackLast, type Undo, undo, useNotedEntry } from '../data/undo';
import { type Openable, onOpen } from '../entry/opens';
import { later } from '../ui/later';
import { MORE, PLACES, ThumbNav } from './places';
import { QuickLine } from './QuickLine';
import { SampleNote } from './SampleNote';
import { TabSite } from './TabSite';
import { ThemeSwitch } from './ThemeSwitch';
import { useKeys } from './use-keys';
import { useSiteLinks } from './use-site-links';
import { WaitingEntries } from './WaitingEntries';

const OPENED = {
	reading: later(() => import('../entry/ReadingDialog')),
	event: later(() => import('../entry/EventDialog')),
};
const Keys = later(() => import('./Keys'));
const WhoMeasures = later(() => import('../people/WhoMeasures'));
const Bell = later(() => import('../watch/Bell'));
const SAID = 'cordwain.said';
/** The page itself comes first. */
const KEEP_AFTER_MS = 3000;

/** Who sits before it, as the page came. */
type FrameMe = Pick<Me, 'open' | 'name' | 'role' | 'shared'>;

/** What is said of what was just entered, and what can be taken back of it. */
interface Said {
	text: string;
	undo: Undo | null;
}

/** Top bar, places, quick line and keys: the same on every page. */
export function Frame({
	place,
	site: held,
	siteName,
	reviewCount,
	me,
}: {
	place: string;
	site: Held<SiteView> | null;
	/** Of the site that is shown, set up or not. */
	siteName: string | null;
	reviewCount: number;
	me: FrameMe;
}) {
	const site = held && unheld(held);

	useSiteLinks();
	const [keys, setKeys] = useState(false);
	const [awake, setAwake] = useState(false);
	useEffect(() => setAwake(true), []);
	useEffect(() => {
		if (!site) return;
		const soon = setTimeout(() => void keepPages(site), KEEP_AFTER_MS);
		return () => clearTimeout(soon);
	}, [site]);
	const [opened, setOpened] = useState<Openable | null>(null);
	useEffect(() => onOpen(setOpened), []);
	const [said, show] = useState<Said>({ text: '', undo: null });
	useNotedEntry(said.undo);
	// A page that loads itself anew after a change must not swallow the answer to it.
	const setSaid = useCallback((text: string, undo: Said['undo'] = null) => {
		sessionStorage.setItem(SAID, JSON.stringify({ text, undo, at: Date.now() }));
		show({ text, undo });
	}, []);
	useEffect(() => {
		const kept = JSON.parse(sessionStorage.getItem(SAID) ?? 'null') as (Said & { at: number }) | null;
		if (kept && Date.now() - kept.at < 6000) show(kept);
	}, []);

	useEffect(
		() =>
			onStoredLater((words) => {
				setSaid(`${words}: stored now.`);
				window.dispatchEvent(new Event('cordwain:changed'));
			}),
		[setSaid],
	);

	const takeBack = useCallback(
		async (what: Undo | 'last') => {
			try {
				setSaid(what === 'last' ? await takeBackLast() : await undo(what));
				window.dispatchEvent(new Event('cordwain:changed'));
			} catch (error) {
				setSaid((error as Error).message);
			}
		},
		[setSaid],
	);

	useKeys(takeBack, setKeys);

	const link = ([code, name, href]: readonly [string, string, string]) => (
		<a
			key={code}
			href={href}
			aria-current={place === code ? 'page' : undefined}
			className={`py-2 border-b-[3px] ${place === code ? 'border-base-content font-bold' : 'border-transparent text-soft hover:text-base-content'}`}
		>
			{name}
		</a>
	);

	const Opened = OPENED[opened?.what ?? 'reading'];
	return (
		<>
			<header className="border-b border-line">
				<div className="max-w-[1280px] mx-auto px-4 sm:px-5 py-2 flex flex-wrap items-center gap-x-5 gap-y-2">
					<a href="/" className="font-bold text-[1.15rem]">
						Cordwain
					</a>
					{siteName !== null &&
						(me.shared ? (
							<span className="text-soft">{siteName}</span>
						) : (
							<a href="/sites" className="text-soft hover:underline underline-offset-4" title="Sites">
								{siteName}
							</a>
						))}
					{site && <QuickLine site={site} onSaved={({ words, undo: back }) => setSaid(words, back)} />}
					<span className="ml-auto flex items-center gap-3">
						<Suspense>{site && awake && <Bell />}</Suspense>
						{reviewCount > 0 && (
							<a href="/review" className="hidden sm:inline">
								Review <strong>{reviewCount}</strong>
							</a>
						)}
						{me.name !== null && !me.shared && (
							<a href="/people" className="hidden sm:inline underline underline-offset-4" data-me={me.name}>
								{me.name}
							</a>
						)}
						<ThemeSwitch />
						<button
							type="button"
							className="hidden sm:inline cursor-pointer text-soft"
							onClick={() => setKeys(true)}
							aria-label="Keys"
						>
							<kbd>?</kbd>
						</button>
					</span>
				</div>
			</header>
			{siteName !== null && <TabSite siteName={siteName} />}
			{site?.sample && <SampleNote />}
			<nav className="border-b border-line hidden sm:block" aria-label="Places">
				<div className="max-w-[1280px] mx-auto px-5 flex flex-wrap gap-x-6">
					{PLACES.map(link)}
					<span className="ml-auto flex flex-wrap gap-x-6">
						{MORE.filter(([code]) => code !== 'setup' || me.role === 'grower').map(link)}
					</span>
				</div>
			</nav>
			<ThumbNav place={place} />
			<Suspense>
				{site && opened !== null && (
					<Opened key={`${opened.what}${opened.id}`} id={opened.id} site={site} onClose={() => setOpened(null)} />
				)}
				{keys && <Keys onClose={() => setKeys(false)} />}
			</Suspense>
			{me.shared && (
				<div className="max-w-[1280px] mx-auto px-4 sm:px-5">
					<Suspense>{awake && <WhoMeasures name={me.name} />}</Suspense>
				</div>
			)}
			<div aria-live="polite" className="max-w-[1280px] mx-auto px-4 sm:px-5">
				<WaitingEntries />
				{said.text && (
					<p className="mt-2 border-l-4 border-base-content pl-3 py-1" data-said>
						{said.text}{' '}
						{said.undo !== null && (
							<button type="button" className="act !font-normal" onClick={() => takeBack(said.undo!)}>
								Undo
							</button>
						)}
					</p>
				)}
			</div>
		</>
	);
}
