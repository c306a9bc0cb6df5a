import type { SiteView } from '@/core/reading/site-view';
import { useTheme } from '../../ui/theme';
import { hueOf, type Line, lineKey, lineName, lineUnit, MOST_SCALES, quantityName, scalesOf } from './line';

/** Which lines are drawn: each can be left out, and any other put beside them while there is a scale for it. */
export function LinePicker({
	lines,
	known,
	site,
	onChange,
}: {
	lines: readonly Line[];
	known: readonly Line[];
	site: SiteView;
	onChange: (lines: Line[]) => void;
}) {
	const theme = useTheme();
	const scales = scalesOf(lines, site.units);
	const full = (l: Line) => scales.length >= MOST_SCALES && !scales.includes(lineUnit(l.quantity, site.units));
	const chosen = new Set(lines.map(lineKey));
	const rest = known.filter((l) => !chosen.has(lineKey(l)));
	return (
		<div className="flex flex-wrap items-center gap-2 mb-2">
			{lines.map((l) => (
				<span
					key={lineKey(l)}
					className="flex items-center gap-2 border border-line rounded px-2 min-h-10"
					data-line={lineKey(l)}
				>
					<span aria-hidden="true" className="inline-block w-4 h-1" style={{ background: hueOf(l.quantity, theme) }} />
					{lineName(l, site)}
					<button
						type="button"
						className="cursor-pointer px-1 text-soft"
						aria-label={`Leave out ${lineName(l, site)}`}
						onClick={() => onChange(lines.filter((x) => x !== l))}
					>
						×
					</button>
				</span>
			))}
			<label className="flex items-center gap-2">
				<span className="text-soft">put beside</span>
				<select
					className="field !w-56"
					value=""
					onChange={(e) => {
						const next = rest.find((l) => lineKey(l) === e.target.value);
						if (next) onChange([...lines, next]);
					}}
				>
					<option value="">…</option>
					{site.stations.map((s) => {
						const own = rest.filter((l) => l.station === s.info.code);
						return own.length === 0 ? null : (
							<optgroup key={s.info.code} label={s.name}>
								{own.map((l) => (
									<option key={lineKey(l)} value={lineKey(l)} disabled={full(l)}>
										{quantityName(l.quantity)}
										{full(l) ? ` (a fourth scale)` : ''}
									</option>
								))}
							</optgroup>
						);
					})}
				</select>
			</label>
		</div>
	);
}
