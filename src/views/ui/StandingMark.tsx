import type { Standing } from '@/core/trust/standing';

/** The mark of a standing: filled disc, half disc, struck square, ring with tie. The word goes with it for everyone who cannot see it. */
export function StandingMark({ standing, word = false }: { standing: Standing; word?: boolean }) {
	const tone =
		standing === 'bad' ? 'var(--color-error)' : standing === 'doubtful' ? 'var(--color-warning)' : 'currentColor';
	return (
		<span className="inline-flex items-center gap-1.5 whitespace-nowrap">
			<svg width="16" height="12" viewBox="0 0 16 12" aria-hidden="true" className="shrink-0" color={tone}>
				{standing === 'sound' && <circle cx="6" cy="6" r="4.5" fill="currentColor" />}
				{standing === 'doubtful' && (
					<>
						<circle cx="6" cy="6" r="4.5" fill="none" stroke="currentColor" strokeWidth="1.5" />
						<path d="M6 1.5a4.5 4.5 0 0 1 0 9z" fill="currentColor" />
					</>
				)}
				{standing === 'bad' && (
					<g fill="none" stroke="currentColor" strokeWidth="1.5">
						<rect x="1.5" y="1.5" width="9" height="9" />
						<path d="M1.5 10.5l9-9" />
					</g>
				)}
				{standing === 'restated' && (
					<g fill="none" stroke="currentColor" strokeWidth="1.5">
						<circle cx="5" cy="6" r="3.5" />
						<path d="M8.5 6H15" />
					</g>
				)}
				{standing === 'discarded' && <path d="M1.5 6h9" stroke="currentColor" strokeWidth="1.5" />}
			</svg>
			<span className={word ? 'text-[0.85rem]' : 'sr-only'}>{standing}</span>
		</span>
	);
}
