/** Asks the server, and gives up after so long: it is away then, and what waits behind goes on. */

export const within = (ms: number) => async (request: Request) => {
  const given = new AbortController();
  const late = setTimeout(() => given.abort(), ms);
  try {
    const response = await fetch(request, { signal: given.signal });
    // The answer's body, too, has to come in that time.
    const body = NO_BODY.has(response.status) ? null : await response.arrayBuffer();
    return new Response(body, { status: response.status, statusText: response.statusText, headers: response.headers });
  } finally {
    clearTimeout(late);
  }
};

const NO_BODY = new Set([101, 204, 205, 304]);
