import { apiDescription, OPERATIONS } from '$server';

interface Described {
  readonly paths: Readonly<
    Record<string, Readonly<Record<string, { readonly requestBody?: { readonly content: Readonly<Record<string, { readonly schema: unknown }>> } }>>>
  >;
}

/** Addresses in the order in which people need them, with the shape of what is sent. */
export const load = () => {
  const { paths } = apiDescription() as Described;
  return {
    operations: Object.entries(OPERATIONS).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, o]) => {
        const content = paths[path]?.[method.toLowerCase()]?.requestBody?.content;
        const [type, sent] = Object.entries(content ?? {})[0] ?? [];
        return {
          path,
          method,
          says: o.says,
          gives: o.gives,
          streamed: o.streamed ?? false,
          type,
          schema: sent ? JSON.stringify(sent.schema, null, 2) : undefined,
        };
      }),
    ),
  };
};
