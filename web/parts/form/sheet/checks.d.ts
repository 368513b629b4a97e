declare module '~/web/.checks/index.mjs' {
  import type { OperationName } from '~/service/contract';
  import type { SchemaFault } from '~/schemas/faults';

  type Check = ((body: unknown) => boolean) & { readonly errors?: readonly SchemaFault[] | null };

  /** What the build makes of the schemas of bodies, by the operation they are sent to. */
  export const CHECKS: Readonly<Partial<Record<OperationName, () => Promise<{ readonly default: Check }>>>>;
}
