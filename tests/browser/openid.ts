import { createServer, type IncomingMessage, type Server } from "node:http";
import { exportJWK, generateKeyPair, SignJWT } from "jose";
import { Provider } from "oidc-provider";

const client = { client_id: "golden-rule", client_secret: "known to both" };

export interface Someone {
  sub: string;
  name: string;
  email: string;
  email_verified: boolean;
  groups: string[];
}

const listening = (server: Server) =>
  new Promise<string>((resolve) => {
    server.listen(0, "127.0.0.1", () => resolve(`http://127.0.0.1:${(server.address() as { port: number }).port}`));
  });

/** A real provider (npm oidc-provider), whose sign-in page lets in whoever is said to be there. */
export async function startProvider(callback: string, who: () => Someone) {
  const server = createServer((request, response) => handle(request, response));
  const issuer = await listening(server);
  const provider = new Provider(issuer, {
    clients: [{ ...client, redirect_uris: [callback], response_types: ["code"], grant_types: ["authorization_code"] }],
    pkce: { required: () => true },
    claims: { openid: ["sub", "groups"], profile: ["name"], email: ["email", "email_verified"] },
    conformIdTokenClaims: false,
    features: { devInteractions: { enabled: false } },
    interactions: { url: (_, interaction) => `/interaction/${interaction.uid}` },
    findAccount: (_, id) => ({ accountId: id, claims: () => ({ ...who(), sub: id }) }),
    cookies: { keys: ["signed with this"] },
  });
  const handle = async (...[request, response]: Parameters<ReturnType<Provider["callback"]>>) => {
    if (!request.url?.startsWith("/interaction/")) {
      return provider.callback()(request, response);
    }
    // Signs in and agrees in one go, as somebody at the page would.
    const { prompt, params, grantId } = await provider.interactionDetails(request, response);
    const grant =
      (grantId && (await provider.Grant.find(grantId))) || new provider.Grant({ accountId: who().sub, clientId: `${params.client_id}` });
    grant.addOIDCScope("openid profile email");
    const result = prompt.name === "login" ? { login: { accountId: who().sub } } : { consent: { grantId: await grant.save() } };
    return provider.interactionFinished(request, response, result, { mergeWithLastSubmission: true });
  };
  return { issuer, ...client, stop: () => server.close() };
}

/** What is wrong with a token. */
export type Fault = "nonce" | "issuer" | "audience" | "expired" | "signature" | "none";

const bodyOf = async (request: IncomingMessage) => {
  const parts: Buffer[] = [];
  for await (const part of request) parts.push(part as Buffer);
  return new URLSearchParams(Buffer.concat(parts).toString());
};

/** A provider that lies in one way, and keeps count of codes that were asked for with PKCE. */
export async function startLiar(fault: () => Fault) {
  const [ours, theirs] = await Promise.all([generateKeyPair("RS256"), generateKeyPair("RS256")]);
  const asked = new Map<string, { nonce: string; challenge: string }>();
  const server = createServer(async (request, response) => {
    const url = new URL(request.url ?? "/", issuer);
    const json = (what: object, status = 200) =>
      response.writeHead(status, { "content-type": "application/json" }).end(JSON.stringify(what));
    if (url.pathname === "/.well-known/openid-configuration") {
      json({
        issuer,
        authorization_endpoint: `${issuer}/authorize`,
        token_endpoint: `${issuer}/token`,
        jwks_uri: `${issuer}/keys`,
        response_types_supported: ["code"],
        subject_types_supported: ["public"],
        id_token_signing_alg_values_supported: ["RS256"],
        code_challenge_methods_supported: ["S256"],
      });
    } else if (url.pathname === "/keys") {
      json({ keys: [{ ...(await exportJWK(ours.publicKey)), kid: "1", alg: "RS256", use: "sig" }] });
    } else if (url.pathname === "/authorize") {
      const code = `code-${asked.size}`;
      asked.set(code, { nonce: url.searchParams.get("nonce") ?? "", challenge: url.searchParams.get("code_challenge") ?? "" });
      const back = new URL(url.searchParams.get("redirect_uri") ?? "");
      back.searchParams.set("code", code);
      back.searchParams.set("state", url.searchParams.get("state") ?? "");
      response.writeHead(302, { location: back.href }).end();
    } else if (url.pathname === "/token") {
      const said = await bodyOf(request);
      const known = asked.get(said.get("code") ?? "");
      const hash = await crypto.subtle.digest("SHA-256", new TextEncoder().encode(said.get("code_verifier") ?? ""));
      if (!known || Buffer.from(hash).toString("base64url") !== known.challenge) {
        json({ error: "invalid_grant" }, 400);
        return;
      }
      const lie = fault();
      const now = Math.floor(Date.now() / 1000);
      const token = await new SignJWT({
        nonce: lie === "nonce" ? "another" : known.nonce,
        email: "ruth@larkfell.example.org",
        email_verified: true,
        name: "Ruth Calder",
      })
        .setProtectedHeader({ alg: "RS256", kid: "1" })
        .setSubject("ruth-there")
        .setIssuer(lie === "issuer" ? "http://127.0.0.1:1" : issuer)
        .setAudience(lie === "audience" ? "another" : client.client_id)
        .setIssuedAt(lie === "expired" ? now - 7200 : now)
        .setExpirationTime(lie === "expired" ? now - 3600 : now + 300)
        .sign(lie === "signature" ? theirs.privateKey : ours.privateKey);
      json({ access_token: "none", token_type: "Bearer", expires_in: 300, id_token: token });
    } else {
      response.writeHead(404).end();
    }
  });
  const issuer = await listening(server);
  return { issuer, ...client, stop: () => server.close() };
}
