// Who else is on this machine, which fields they have open, and what they change, as it happens.
window.pulltide = window.pulltide || {};
window.pulltide.together = {
  // A window that nobody looks at holds no stream: a browser has few for one server.
  joinOthers() {
    const open = () => {
      if (document.hidden || this.stream || "alone" in this.root().dataset) return;
      this.stream = new EventSource(`/machines/${this.root().dataset.machine}/events`);
      this.stream.addEventListener("window", (event) => { this.ownWindow = JSON.parse(event.data); });
      this.stream.addEventListener("seen", (event) => this.othersSeen(JSON.parse(event.data)));
    };
    const close = () => {
      if (this.stream) this.stream.close();
      this.stream = null;
      this.others = [];
    };
    document.addEventListener("visibilitychange", () => {
      if (document.hidden) close();
      else open();
      this.stayAwake();
    });
    window.addEventListener("pagehide", close);
    this.root().addEventListener("focusin", (event) => this.tellField(event.target));
    this.root().addEventListener("focusout", () => this.tellField(null));
    open();
    this.stayAwake();
  },

  // At the bench the screen stays on while a checklist is open; not where the device does not offer it.
  async stayAwake() {
    const wanted = document.documentElement.hasAttribute("data-bench") && this.root().querySelector("[data-awake]") && !document.hidden;
    if (!navigator.wakeLock || Boolean(wanted) === Boolean(this.awake)) return;
    if (!wanted) {
      const held = this.awake;
      this.awake = null;
      held.release().catch(() => {});
      return;
    }
    try {
      this.awake = await navigator.wakeLock.request("screen");
      this.awake.addEventListener("release", () => { this.awake = null; });
    } catch { this.awake = null; /* low battery, say: the screen goes dark as it does anyway */ }
  },

  // Only which field it is, and only once hands rest on it.
  tellField(input) {
    const field = input && input.name && input.name.startsWith("set:") ? input.name : "";
    clearTimeout(this.telling);
    this.telling = setTimeout(() => {
      if (!this.ownWindow || field === this.toldField) return;
      this.toldField = field;
      const body = new URLSearchParams({ window: this.ownWindow, field });
      const headers = { "X-Form-Token": this.token() };
      fetch(`/machines/${this.root().dataset.machine}/here`, { method: "POST", body, headers }).catch(() => {});
    }, 250);
  },

  othersSeen(seen) {
    this.others = seen.others;
    this.showOthers();
    this.newest = seen;
    this.takeNewer();
  },

  // What a colleague changed is drawn at once, unless something is being typed here: that goes first.
  async takeNewer() {
    const root = this.root();
    const behind = () => this.newest && this.newest.version > Number(root.dataset.version);
    const typed = () => [...root.querySelectorAll("[data-typing], [data-unsaved]")].some((input) => !this.isRefused(input));
    if (!behind() || this.waiting || typed() || this.taking) return;
    this.taking = true;
    const drawn = this.drawn;
    try {
      const answer = await fetch(root.dataset.address, { headers: this.asFragment });
      const body = answer.ok ? await answer.text() : "";
      if (body && drawn === this.drawn && this.waiting === 0 && !typed()) {
        this.swap(body);
        this.state = `${this.newest.author || said("Another window")}: ${this.newest.label}`;
        this.fetchLater();
      }
    } catch { /* The next event tries again. */ } finally { this.taking = false; }
  },

  // Names at the top, and a mark at every field that somebody has open.
  showOthers() {
    const names = [...new Set(this.others.map((other) => other.name))];
    const place = document.getElementById("together");
    if (place) {
      const told = names.length ? said("Also here: {names}", { names: names.join(", ") }) : "";
      if (place.textContent !== told) place.textContent = told;
      place.hidden = names.length === 0;
    }
    for (const input of this.root().querySelectorAll("[data-held]")) {
      delete input.dataset.held;
      input.removeAttribute("title");
    }
    for (const other of this.others.filter((one) => one.field)) {
      const input = this.input(other.field);
      if (!input) continue;
      input.dataset.held = other.name;
      input.title = said("{name} has this field open", { name: other.name });
    }
  },
};
