import { type QueryClient, type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";

type Then<In, Out> = {
  /** Where what was answered is read from now on. */
  put?: (kept: Out, said: In) => QueryKey;
  /** What is read again. */
  again?: readonly QueryKey[];
  /** That it is read again although it failed: another hand may have been faster. */
  always?: boolean;
  /** What else is done then. */
  after?: (kept: Out, cache: QueryClient) => unknown;
};

/** Writes one thing, and keeps the pages that show it true. */
export function useWrite<In, Out>(write: (said: In) => Promise<Out>, then: Then<In, Out> = {}) {
  const cache = useQueryClient();
  const again = () => {
    for (const queryKey of then.again ?? []) void cache.invalidateQueries({ queryKey });
  };
  return useMutation({
    mutationFn: write,
    onSuccess: async (kept, said) => {
      if (then.put) cache.setQueryData(then.put(kept, said), kept);
      again();
      await then.after?.(kept, cache);
    },
    ...(then.always && { onError: again }),
  });
}
