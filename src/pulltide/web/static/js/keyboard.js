// The page by keys: places, undo, stages, stock sizes.
window.pulltide = window.pulltide || {};
window.pulltide.keyboard = {
  // The next stock size up or down from what the field holds now.
  stepStock(input, direction) {
    if (!input || !input.dataset.stock) return;
    const list = JSON.parse(input.dataset.stock);
    let index = list.indexOf(input.value);
    if (index < 0) index = this.nearest(list, input.value) - (direction > 0 ? 1 : 0);
    const next = list[Math.min(Math.max(index + direction, 0), list.length - 1)];
    if (next === undefined || next === input.value) return;
    input.value = next;
    this.hold(input);
    input.dispatchEvent(new Event("change", { bubbles: true }));
  },

  nearest(list, text) {
    const value = parseFloat(text.replace(/^[A-Z0-9]*?([0-9.]+)$/, "$1"));
    const index = list.findIndex((item) => parseFloat(item) >= value);
    return index < 0 ? list.length : index;
  },

  key(event) {
    const field = event.target.closest ? event.target.closest("input, select, textarea, dialog[open]") : null;
    if ((event.metaKey || event.ctrlKey) && !event.altKey) { this.undoKey(event, field); return; }
    if (event.metaKey || event.ctrlKey || event.altKey) return;
    if (this.ringKey(event)) return;
    if (event.key === "Escape") this.closeMenus();
    if (field) this.fieldKey(event, field);
    else this.command(event);
  },

  // Ctrl+Z takes back the last change, unless it is meant for what is being typed.
  undoKey(event, field) {
    if (!["z", "Z", "y"].includes(event.key) || (field && (field.dataset.typing || field.matches("dialog")))) return;
    event.preventDefault();
    this.afterSaving(event.key === "z" ? "undo" : "redo");
  },

  // + and - step through stock only where nothing is being typed: both occur in names and numbers. Escape puts back what
  // was there and leaves the field.
  fieldKey(event, field) {
    if (event.key === "Escape" && field.matches("form[data-edit] input, form[data-edit] textarea")) {
      if (field.dataset.typing) { field.value = field.defaultValue; delete field.dataset.typing; this.showSaved(); }
      field.blur();
      return;
    }
    const steps = field.dataset.stock && !field.dataset.typing && field.selectionEnd === field.value.length;
    if (steps && (event.key === "+" || event.key === "-")) {
      event.preventDefault();
      this.stepStock(field, event.key === "+" ? 1 : -1);
    }
  },

  command(event) {
    if (this.goKey) {
      this.goKey = false;
      const place = this.root().querySelector(`.rail [data-shortcut="${CSS.escape(event.key)}"]`);
      if (event.key === "s") location.assign("/");
      else if (place) this.go(place.getAttribute("href"), true);
      return;
    }
    const actions = {
      g: () => { this.goKey = true; },
      u: () => this.afterSaving("undo"),
      U: () => this.afterSaving("redo"),
      w: () => this.go(`${this.root().dataset.lastSpeed}#working`, true),
      "?": () => this.help_(),
      "/": () => this.openPalette(),
      ArrowLeft: () => this.walk(-1),
      ArrowRight: () => this.walk(1),
    };
    if (event.key in actions) { event.preventDefault(); actions[event.key](); }
  },

  // A change still on its way is what the person means to take back.
  afterSaving(name) { this.next(() => document.getElementById(name).click()); },

  address(changes) {
    const query = new URLSearchParams(location.search);
    for (const [name, value] of Object.entries(changes)) { if (value) query.set(name, value); else query.delete(name); }
    return `${location.pathname}?${query}`;
  },

  walk(direction) {
    const links = [...this.root().querySelectorAll(".link")].map((item) => item.id);
    const here = links.indexOf(new URLSearchParams(location.search).get("at"));
    const next = links[here < 0 ? (direction > 0 ? 0 : links.length - 1) : Math.min(Math.max(here + direction, 0), links.length - 1)];
    if (next) this.go(`${this.address({ at: next })}#${next}`, true);
  },
};
