// Goes to anything by its name: the list comes once when it is opened, and is narrowed here.
window.pulltide = window.pulltide || {};
window.pulltide.palette = {
  found: [],
  marked: 0,

  async openPalette() {
    const dialog = document.getElementById("palette");
    const input = document.getElementById("palette-name");
    if (dialog.open) return;
    input.value = "";
    this.found = [];
    this.loaded = false;
    this.eager = false;
    document.getElementById("palette-list").replaceChildren();
    dialog.showModal();
    input.focus();
    try {
      const query = new URLSearchParams(location.search);
      query.set("machine", this.root().dataset.machine);
      this.found = await (await fetch(`/find?${query}`)).json();
    } catch { this.found = []; }
    this.loaded = true;
    this.narrow();
    if (this.eager && dialog.open) this.takeMarked();
  },

  // Enter before the list is there counts once it is.
  takeMarked() {
    if (!this.loaded) this.eager = true;
    else if (this.shown[this.marked]) this.leaveFor(this.shown[this.marked]);
  },

  // Every word must begin one of the name; names that begin with the first one stand first.
  narrow() {
    const plain = (text) => ` ${text.toLowerCase().replace(/[-·,]/g, " ")}`;
    const words = plain(document.getElementById("palette-name").value).split(/\s+/).filter(Boolean);
    const fits = this.found.filter((item) => words.every((word) => plain(`${item.kind} ${item.name}`).includes(` ${word}`)));
    if (words.length) fits.sort((a, b) => b.name.toLowerCase().startsWith(words[0]) - a.name.toLowerCase().startsWith(words[0]));
    this.shown = fits.slice(0, 12);
    this.marked = 0;
    document.getElementById("palette-list").replaceChildren(...this.shown.map((item, index) => this.drawnDestination(item, index)));
    document.getElementById("palette-none").hidden = fits.length > 0 || !this.found.length;
    this.mark(0);
  },

  drawnDestination(item, index) {
    const line = document.createElement("li");
    line.id = `palette-${index}`;
    line.setAttribute("role", "option");
    const name = document.createElement("b");
    name.textContent = item.name;
    const kind = document.createElement("small");
    kind.textContent = item.detail ? `${item.kind} · ${item.detail}` : item.kind;
    line.append(name, " ", kind);
    line.addEventListener("click", () => this.leaveFor(item));
    return line;
  },

  mark(index) {
    const lines = [...document.getElementById("palette-list").children];
    this.marked = Math.min(Math.max(index, 0), Math.max(lines.length - 1, 0));
    lines.forEach((line, number) => line.setAttribute("aria-selected", String(number === this.marked)));
    const input = document.getElementById("palette-name");
    if (lines.length) { input.setAttribute("aria-activedescendant", lines[this.marked].id); lines[this.marked].scrollIntoView({ block: "nearest" }); }
    else input.removeAttribute("aria-activedescendant");
  },

  paletteKey(event) {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step) { event.preventDefault(); this.mark(this.marked + step); }
    if (event.key === "Escape") { event.preventDefault(); document.getElementById("palette").close(); }
    if (event.key === "Enter") { event.preventDefault(); this.takeMarked(); }
  },

  leaveFor(item) {
    document.getElementById("palette").close();
    const here = item.address.startsWith(`/machines/${this.root().dataset.machine}/`);
    if (here) this.go(item.address, true, true);
    else location.assign(item.address);
  },
};
