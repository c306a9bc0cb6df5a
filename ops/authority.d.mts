export function ownNames(): { names: string[]; addresses: string[] };
export function lanAddresses(): string[];
export function ownCertificate(dataDir: string): Promise<{ cert: string; key: string; root: string }>;
