/** The words of NIST SP 800-88 for how thoroughly a drive was emptied. */
export const WIPES = ['clear', 'purge', 'destroy'] as const;
