import { useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../../model/client";

/** What is promised already, and how long such jobs took. */
export const usePromises = (from: string, route = "") =>
  useQuery({
    queryKey: ["promises", from, route],
    queryFn: () => unwrap(client.GET("/api/v1/promises", { params: { query: { from, route } } })),
  });
