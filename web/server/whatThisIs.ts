/** The version and the commit that run, as whoever started this said. */
export function whatThisIs(): { readonly version: string; readonly commit: string } {
  const { SHELF_VERSION: version = '', SHELF_COMMIT: commit = '' } = process.env;
  return { version, commit };
}
