import { useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../../model/client";

export const usePromises = (from: string) =>
  useQuery({
    queryKey: ["promises", from],
    queryFn: async () => (await unwrap(client.GET("/api/v1/promises", { params: { query: { from } } }))).days,
  });
