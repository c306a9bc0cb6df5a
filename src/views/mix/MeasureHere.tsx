import { QUANTITY } from '@/core/quantity';
import { InstrumentChoice } from '../entry/InstrumentChoice';
import { VerdictLine } from '../entry/VerdictLine';
import { unitLabel } from '../ui/format';
import { type Measuring, useMeasure } from './use-measure';

/** Beyond this share the step is not what it should be: gains scatter by some percent from batch to batch. */
const BESIDE_AIM = 0.06;

/**
 * One value, entered where it is needed as at Bench: understood and judged while it is typed, with the one-key fix. A
 * doubtful one is kept, but the step waits until it was read again or a person stands by it.
 */
export function MeasureHere({
	aim = null,
	children,
	...measuring
}: Measuring & {
	/** What this step should show; nearer to hand than what the station usually does. */
	aim?: number | null;
	children?: React.ReactNode;
}) {
	const { site, quantity } = measuring;
	const m = useMeasure(measuring);
	const { field, doubted, v, verdict, typed, problem } = m;
	return (
		<form
			data-measure={quantity}
			onSubmit={(e) => {
				e.preventDefault();
				m.submit();
			}}
		>
			{children}
			{doubted && (
				<div className="border-l-4 border-warning pl-3 py-1 my-2" data-doubted role="alert">
					<p>
						It is kept, and in doubt: {doubted.doubt} Read again before going on
						{quantity === 'ph' ? ': nothing is dosed on a doubtful pH' : ''}.
					</p>
					<button type="button" className="act !font-normal mt-1" onClick={m.stand}>
						It is right: go on with it
					</button>
				</div>
			)}
			<div className="flex flex-wrap gap-3 items-end">
				<label className="block w-36">
					<span className="field-label">
						{QUANTITY[quantity].name} now{quantity === 'ec' && `, ${unitLabel(m.unit)}`}
					</span>
					<input
						ref={field}
						id={`measure-${quantity}`}
						className="field !text-[1.5rem] !min-h-12"
						data-hue={quantity}
						inputMode="decimal"
						autoComplete="off"
						value={m.text}
						aria-invalid={v.state === 'problem'}
						onChange={(e) => m.type(e.target.value)}
						onKeyDown={m.onKey}
					/>
				</label>
				<InstrumentChoice
					label="measured with"
					site={site}
					value={m.instrument}
					unsaid
					width="w-36"
					onChange={m.setInstrument}
				/>
				<button type="submit" className="act act-main" disabled={m.busy || v.state === 'problem'}>
					Enter
				</button>
			</div>
			<div aria-live="polite">
				{v.state === 'problem' && <p className="text-error">{v.message}</p>}
				{v.state === 'value' && v.marked && <p className="text-soft text-[0.85rem]">read as {v.digits}</p>}
				{verdict && v.state === 'value' && (
					<VerdictLine
						quantity={v.quantity}
						verdict={aim === null ? verdict : { ...verdict, expected: null }}
						units={site.units}
						fixKey="f"
						onFix={verdict.deciding?.suggested == null ? undefined : m.fix}
					/>
				)}
			</div>
			{aim !== null && aim > 0 && typed !== undefined && (
				<p data-aim={Math.abs(typed - aim) <= BESIDE_AIM * aim ? 'near' : 'off'}>
					{Math.abs(typed - aim) <= BESIDE_AIM * aim
						? 'As expected.'
						: `${Math.round((100 * Math.abs(typed - aim)) / aim)} % ${typed > aim ? 'above' : 'below'} what water and feed should give. Has it mixed? Are the litres right, and what was poured?`}
				</p>
			)}
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
		</form>
	);
}
