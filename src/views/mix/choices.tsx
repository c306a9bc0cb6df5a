import type { Tank } from '@/contract/pages';
import type { DisplayUnits } from '@/core/reading/site-view';
import { Choice } from '../ui/controls';
import { ecShown } from './typed';

/** A tank by its name. */
export function TankChoice({
	tanks,
	value,
	onChange,
}: {
	tanks: readonly Tank[];
	value: string;
	onChange: (code: string) => void;
}) {
	return (
		<Choice
			label="tank"
			width="w-40"
			value={value}
			options={tanks.map((t) => t.code)}
			labels={Object.fromEntries(tanks.map((t) => [t.code, t.name]))}
			onChange={onChange}
		/>
	);
}

/** A water by its name and EC. */
export function WaterChoice({
	units,
	waters,
	value,
	onChange,
}: {
	units: DisplayUnits;
	waters: readonly { code: string; name: string; ecUsCm: number }[];
	value: string;
	onChange: (code: string) => void;
}) {
	return (
		<Choice
			label="water"
			width="w-44"
			value={value}
			options={waters.map((w) => w.code)}
			labels={Object.fromEntries(waters.map((w) => [w.code, `${w.name}, ${ecShown(w.ecUsCm, units)}`]))}
			onChange={onChange}
		/>
	);
}
