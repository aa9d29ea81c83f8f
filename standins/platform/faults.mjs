/** What goes wrong on demand, the next times that something is asked for. */
export class Faults {
  #planned = [];

  /**
   * @param path what the path begins with, without "/v1"; @param kind "slow", "busy" (429), "broken" (500), "dropped-before" (nothing is
   * done), "dropped-after" (it is done, and nobody is told), "nonsense"; @param times how often; @param seconds how long.
   */
  plan({ path = "/", method, kind, times = 1, seconds = 1 }) {
    this.#planned.push({ path, method, kind, times, seconds });
  }

  meet(request, answer, next) {
    const fault = this.#planned.find((f) => f.times > 0 && request.path.startsWith(f.path) && (!f.method || f.method === request.method));
    if (!fault) {
      next();
      return;
    }
    fault.times--;
    switch (fault.kind) {
      case "slow":
        setTimeout(next, fault.seconds * 1_000);
        break;
      case "busy":
        answer.set("retry-after", `${fault.seconds}`).status(429).json({ error: "Too many requests." });
        break;
      case "broken":
        answer.status(500).json({ error: "Something went wrong." });
        break;
      case "nonsense":
        answer.type("html").send("<p>Welcome!</p>");
        break;
      case "dropped-before":
        request.socket.destroy();
        break;
      case "dropped-after":
        answer.json = answer.end = () => {
          request.socket.destroy();
          return answer;
        };
        next();
        break;
      default:
        answer.status(500).json({ error: `No fault is called ${fault.kind}.` });
    }
  }
}
