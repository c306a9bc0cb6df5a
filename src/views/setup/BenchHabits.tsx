import { USUAL_WAITS, type Waits } from '@/core/judge/waits';
import { decimal } from '@/core/quantity';
import { Choice, Text } from './fields';

export interface SiteSettings {
	waits?: Waits | undefined;
	sensitivity?: 'calm' | 'usual' | 'keen' | undefined;
}

const WORDS = {
	calm: 'asks less often: only what is far off',
	usual: 'asks as it was measured to be right most often',
	keen: 'asks sooner, and more often in vain',
} as const;

/** How long readings want, and how readily the checks ask. */
export function BenchHabits({
	settings,
	onChange,
}: {
	settings: SiteSettings;
	onChange: (settings: SiteSettings) => void;
}) {
	const waits = settings.waits ?? USUAL_WAITS;
	const sensitivity = settings.sensitivity ?? 'usual';
	const wait = (key: keyof Waits, label: string) => (
		<Text
			label={label}
			width="w-36"
			mode="decimal"
			value={String(waits[key])}
			onChange={(v) => {
				const seconds = decimal(v.trim());
				if (seconds !== undefined && seconds >= 1) onChange({ ...settings, waits: { ...waits, [key]: seconds } });
			}}
		/>
	);
	return (
		<div className="w-full flex flex-wrap gap-3 items-end">
			{wait('ph', 'pH wants, seconds')}
			{wait('phLowMineral', 'in rain or RO, seconds')}
			{wait('ec', 'EC wants, seconds')}
			<Choice
				label="The checks ask"
				width="w-32"
				value={sensitivity}
				options={['calm', 'usual', 'keen']}
				onChange={(v) => onChange({ ...settings, sensitivity: v as 'usual' })}
			/>
			<span className="text-soft text-[0.9rem] pb-2">{WORDS[sensitivity]}</span>
		</div>
	);
}
