import { Button, ComboBox, I18nProvider, Input, Label, ListBox, ListBoxItem, Popover } from 'react-aria-components';

/** A name that is typed, or chosen among those that are known; one that is not known yet is as good. */
export function NameBox({
	label,
	value,
	onChange,
	names,
	width,
}: {
	label: string;
	value: string;
	onChange: (name: string) => void;
	names: readonly string[];
	width: string;
}) {
	return (
		<I18nProvider locale="en-GB">
			<ComboBox allowsCustomValue inputValue={value} onInputChange={onChange} className={width} menuTrigger="focus">
				<Label className="field-label">{label}</Label>
				<span className="flex">
					<Input className="field" maxLength={200} />
					{names.length > 0 && (
						<Button className="act !font-normal -ml-px" aria-label="Known names">
							▾
						</Button>
					)}
				</span>
				<Popover className="min-w-(--trigger-width) border border-base-content rounded bg-base-100 text-base-content overflow-auto">
					<ListBox items={names.map((name) => ({ id: name }))}>
						{({ id }) => (
							<ListBoxItem
								id={id}
								textValue={id}
								className="px-3 py-2 min-h-11 cursor-pointer data-focused:bg-lit data-selected:font-bold"
							>
								{id}
							</ListBoxItem>
						)}
					</ListBox>
				</Popover>
			</ComboBox>
		</I18nProvider>
	);
}
