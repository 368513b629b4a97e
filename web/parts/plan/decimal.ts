/** What is copied is no drive: "TB" means what it says. */
export const DECIMAL = { counts: 'TB', prints: 'TB' } as const;
