import { useState } from 'react';
import { rawStandard1413 } from '@/core/probe/standard-1413';
import { decimal, nearestScale, type PpmScale } from '@/core/quantity';

/** Finds a pen's ppm scale from one dip in the 1413 µS/cm standard. */
export function ScaleFinder({ onFound }: { onFound: (scale: PpmScale) => void }) {
	const [ppm, setPpm] = useState('');
	const [temp, setTemp] = useState('25');
	const [compensates, setCompensates] = useState(true);
	const shown = decimal(ppm.trim());
	const tempC = decimal(temp.trim());
	const expected = compensates ? 1413 : tempC === undefined ? undefined : rawStandard1413(tempC);
	const finding = shown === undefined || expected === undefined ? null : nearestScale(shown, expected);
	return (
		<div className="border border-line p-3 rounded" data-scale-finder>
			<p className="mb-2 max-w-[60ch]">Dip the pen in the 1413 µS/cm standard and type what it shows in ppm.</p>
			<div className="grid sm:grid-cols-3 gap-3 items-end">
				<div>
					<label className="field-label" htmlFor="sf-ppm">
						It shows, ppm
					</label>
					<input
						id="sf-ppm"
						className="field"
						inputMode="decimal"
						value={ppm}
						onChange={(e) => setPpm(e.target.value)}
					/>
				</div>
				<div>
					<label className="field-label" htmlFor="sf-t">
						Standard at, °C
					</label>
					<input
						id="sf-t"
						className="field"
						inputMode="decimal"
						value={temp}
						onChange={(e) => setTemp(e.target.value)}
					/>
				</div>
				<label className="flex gap-2 items-center min-h-10">
					<input type="checkbox" checked={compensates} onChange={(e) => setCompensates(e.target.checked)} /> it
					compensates (ATC)
				</label>
			</div>
			<div aria-live="polite" className="mt-2">
				{finding?.found && (
					<p>
						Scale <strong>{finding.scale}</strong>: {Math.abs(finding.error * 100).toFixed(1)} % off.{' '}
						<button type="button" className="act ml-2" onClick={() => onFound(finding.scale)}>
							Use {finding.scale}
						</button>
					</p>
				)}
				{finding && !finding.found && (
					<p>
						Undecided: {shown} is not within 3 % of any scale{finding.nearest ? `; ${finding.nearest} is nearest` : ''}.
						Rinse, use fresh standard, mind the temperature, and try again.
					</p>
				)}
				{!compensates && expected === undefined && tempC !== undefined && (
					<p>Without compensation the temperature must be between 15 and 30 °C.</p>
				)}
			</div>
		</div>
	);
}
