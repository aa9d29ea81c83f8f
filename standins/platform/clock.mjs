/** The platform's own time: it can be set, and runs as fast as it is told. */
export class Clock {
  #from = Date.now();
  #since = Date.now();
  #later = [];
  #timer = setInterval(() => this.#run(), 20).unref();
  speed = 1;

  now() {
    return this.#from + (Date.now() - this.#since) * this.speed;
  }

  /** @param now ISO 8601, if it is to be set; @param speed seconds of its own in one second. */
  set({ now, speed }) {
    const at = now === undefined ? this.now() : Date.parse(now);
    if (Number.isNaN(at) || (speed !== undefined && !(speed > 0))) {
      throw Object.assign(new Error("A moment is ISO 8601, and a speed more than nothing."), { status: 422, expose: true });
    }
    this.#from = at;
    this.#since = Date.now();
    this.speed = speed ?? this.speed;
    this.#run();
  }

  at(moment, then) {
    this.#later.push({ moment, then });
  }

  stop() {
    clearInterval(this.#timer);
  }

  #run() {
    const due = this.#later.filter((l) => l.moment <= this.now());
    this.#later = this.#later.filter((l) => !due.includes(l));
    for (const { then } of due) {
      then();
    }
  }
}
