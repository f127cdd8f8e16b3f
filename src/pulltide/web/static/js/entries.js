// Entries that the server refused: kept with their text and their reason until they are right, wherever the page is
// turned meanwhile, and over a reload. Each is known by its path in the machine.
window.pulltide = window.pulltide || {};
window.pulltide.entries = {
  entries: [],

  entriesKey() { return `pulltide-entries-${this.root().dataset.machine}`; },

  recallEntries() {
    try { this.entries = JSON.parse(sessionStorage.getItem(this.entriesKey())) || []; } catch { this.entries = []; }
    this.putEntriesBack();
  },

  keepEntries() {
    this.drawEntries();
    try { sessionStorage.setItem(this.entriesKey(), JSON.stringify(this.entries)); } catch { /* kept as long as the page is open */ }
  },

  remember(input, reason) {
    const path = input.name.replace(/^set:/, "");
    const label = input.getAttribute("aria-label") || (input.labels && input.labels[0] ? input.labels[0].textContent.trim() : path);
    const entry = { path, label, text: input.value, reason, address: location.pathname + location.search };
    this.entries = [...this.entries.filter((other) => other.path !== path), entry];
    this.keepEntries();
  },

  forget(path) {
    this.entries = this.entries.filter((entry) => entry.path !== path);
    this.keepEntries();
  },

  drop(entry) {
    this.forget(entry.path);
    const input = this.input(`set:${entry.path}`);
    if (input) { input.value = input.defaultValue; this.settled(input.name); }
    this.showSaved();
  },

  // Every field that is on the page gets its refused text back; the others wait until their place is opened.
  putEntriesBack() {
    this.drawEntries();
    for (const entry of this.entries) {
      const input = entry.path && this.input(`set:${entry.path}`);
      if (!input || input.dataset.typing) continue; // what is being typed now is newer than what was refused
      input.value = entry.text;
      input.dataset.unsaved = "yes";
      input.setAttribute("aria-invalid", "true");
      this.help(input, entry.reason, true);
    }
  },

  // Stages that came, went or changed places take their entries along; what belonged to one that is gone is only shown.
  moveEntries(data, shape) {
    const replaced = this.replacedBy(data.get("operation"), data.get("plan"));
    const plan = `plans.${data.get("plan")}.links.`;
    const index = Number(data.get("index"));
    const moved = this.entries.map((entry) => {
      if (replaced && entry.path.startsWith(replaced)) return { ...entry, path: `gone.${entry.path}`, address: "" };
      if (!entry.path.startsWith(plan)) return entry;
      const [number, ...rest] = entry.path.slice(plan.length).split(".");
      const to = this.placeAfter(data.get("operation") || shape, Number(number), index, data.get("kind"));
      return { ...entry, path: to === null ? `gone.${entry.path}` : `${plan}${to}.${rest.join(".")}`, address: to === null ? "" : entry.address };
    });
    this.entries = moved;
    this.keepEntries();
  },

  // What an operation puts something else in the place of.
  replacedBy(operation, plan) {
    const places = {
      choose_worksheet: "need.worksheet.",
      choose_end: "need.end.",
      choose_source: `plans.${plan}.source.`,
      take_stock: `plans.${plan}.source.`,
    };
    return places[operation] || "";
  },

  placeAfter(operation, number, index, kind) {
    const other = /^\d+$/.test(kind) ? Number(kind) : index + (kind === "later" ? 1 : -1);
    const between = number > Math.min(index, other) && number < Math.max(index, other);
    const places = {
      add_link: () => (number >= index ? number + 1 : number),
      copy_link: () => (number > index ? number + 1 : number),
      remove_link: () => (number === index ? null : number > index ? number - 1 : number),
      move_link: () => (number === index ? other : number === other || between ? number + (other > index ? -1 : 1) : number),
      swap_link: () => (number === index ? null : number),
      reshaped: () => null,
      remove_plan: () => null,
    };
    return operation in places ? places[operation]() : number;
  },

  // The line that names every entry that is not saved, leads to it, and forgets it.
  drawEntries() {
    const line = document.getElementById("unsaved");
    const count = this.entries.length;
    line.hidden = count === 0;
    line.replaceChildren();
    if (!count) return;
    const says = document.createElement("b");
    says.textContent = count === 1 ? said("1 entry not saved:") : said("{count} entries not saved:", { count });
    line.append(says);
    for (const entry of this.entries) line.append(" ", this.drawnEntry(entry));
  },

  drawnEntry(entry) {
    const item = document.createElement("span");
    const name = document.createElement(entry.address ? "a" : "span");
    name.textContent = `${entry.label} “${entry.text}”${entry.address ? "" : said(", which is not there any more")}`;
    if (entry.address) {
      name.href = entry.address;
      name.addEventListener("click", (event) => { event.preventDefault(); event.stopPropagation(); this.openEntry(entry); });
    }
    const forget = document.createElement("button");
    forget.type = "button";
    forget.className = "quiet";
    forget.textContent = said("Forget it");
    forget.setAttribute("aria-label", said("Forget the entry “{text}”", { text: entry.text }));
    forget.addEventListener("click", () => this.drop(entry));
    item.append(name, " ", forget);
    return item;
  },

  async openEntry(entry) {
    const name = `set:${entry.path}`;
    if (!this.input(name)) await this.go(entry.address, true);
    const input = this.input(name);
    if (input) { input.focus(); input.select(); }
  },
};
