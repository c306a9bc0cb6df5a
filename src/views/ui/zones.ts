/** Names of time zones to choose from, UTC first. */
export const zones = (): string[] => ['UTC', ...Intl.supportedValuesOf('timeZone').filter((z) => z !== 'UTC')];
