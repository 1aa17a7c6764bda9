import createClient, { type Middleware } from "openapi-fetch";
import type { paths } from "../src/model/schema.gen";

const baseUrl = process.env["HANDWERK_BASE"] ?? "";

/**
 * What the description's security schemes ask for, as any client would keep it:
 * the cookie that signing in sets, and the session's token on writes.
 */
function signedIn(cookie: string, csrf: string): Middleware {
  return {
    onRequest({ request }) {
      request.headers.set("Cookie", cookie);
      request.headers.set("X-CSRF-Token", csrf);
    },
  };
}

/** A client that is signed in. */
export async function signIn(login: string) {
  const client = createClient<paths>({ baseUrl, headers: { Origin: baseUrl } });
  const { data, response } = await client.POST("/api/v1/session", {
    body: { login, password: "tide-and-torque" },
  });
  const cookie = response.headers
    .getSetCookie()
    .map((c) => c.split(";")[0])
    .join("; ");
  client.use(signedIn(cookie, data?.csrf ?? ""));
  return client;
}

export const tomorrow = () => new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
