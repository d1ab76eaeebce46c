export function schemas(): Record<string, string>;
