// Screen state only: sends edits, swaps in what the server drew, and never loses what was typed.
document.addEventListener("alpine:init", () => {
  window.Alpine.data("train", () => ({
    state: "",
    conflict: false,
    conflictText: "",
    queue: Promise.resolve(),
    waiting: 0,
    goKey: false,
    drawn: 0,

    init() {
      this.state = this.savedText();
      this.syncHelp();
    },

    busy(change) {
      this.waiting += change;
      this.root().toggleAttribute("data-busy", this.waiting > 0);
    },

    root() { return document.getElementById("train"); },
    savedText() { return document.getElementById("saved").dataset.saved; },
    token() { return document.querySelector('meta[name="form-token"]').content; },

    // A field was left or Enter pressed: send it with any field of the same form that was refused before.
    changed(event) {
      const form = event.target.closest("form[data-edit]");
      if (!form || event.target.type === "hidden" || form.querySelector("[data-submit]")) return;
      this.hold(event.target);
      this.send(form, this.partial(form));
    },

    // A field on its way to the server: kept as typed until it is saved.
    hold(input) {
      input.dataset.unsaved = "yes";
      delete input.dataset.typing;
    },

    partial(form) {
      const data = new FormData();
      for (const input of form.querySelectorAll("input, select, textarea")) {
        if (input.type === "hidden" || input.dataset.unsaved) data.append(input.name, input.value);
      }
      return data;
    },

    submitted(event) {
      const form = event.target.closest("form[data-edit]");
      if (!form) return;
      event.preventDefault();
      this.closeMenus();
      if (event.submitter || !form.querySelector("input:not([type=hidden]), select, textarea")) {
        for (const input of form.querySelectorAll("input:not([type=hidden]), select:not([data-quiet])")) this.hold(input);
        this.send(form, new FormData(form, event.submitter));
      } else if (document.activeElement && document.activeElement.form === form) {
        this.hold(document.activeElement);
        this.send(form, this.partial(form));
      }
    },

    typing(event) {
      if (!event.target.matches("form[data-edit] input, form[data-edit] textarea")) return;
      event.target.dataset.typing = "yes";
      this.state = "Not saved yet";
    },

    // Edits go one after the other, each made for the version the one before it produced.
    send(form, data) {
      const address = form.action;
      this.state = "Saving…";
      // Links change their places: until that is drawn, nothing may be aimed at the old ones.
      if (data.has("operation")) document.getElementById("main").inert = true;
      this.next(() => this.post(address, data)).finally(() => { document.getElementById("main").inert = false; });
    },

    // One thing after the other; a fault in one does not hold up the next.
    next(work) {
      this.busy(1);
      this.queue = this.queue.then(work).finally(() => this.busy(-1)).catch((fault) => { this.state = "Something went wrong; load the page again"; console.error(fault); });
      return this.queue;
    },

    async post(address, data) {
      data.set("version", this.root().dataset.version);
      let answer;
      try {
        answer = await fetch(address, { method: "POST", body: data, headers: { "X-Fragment": "1", "X-Form-Token": this.token() } });
      } catch {
        this.state = "Not saved: no answer";
        return;
      }
      const body = await answer.text();
      if (answer.ok) {
        for (const [name] of data.entries()) this.settled(name);
        this.swap(body);
      } else {
        this.refused(answer.status, body, data);
      }
    },

    input(name) { return this.root().querySelector(`[name="${CSS.escape(name)}"]`); },

    settled(name) {
      const input = this.input(name);
      if (!input || input.type === "hidden") return;
      delete input.dataset.unsaved;
      input.removeAttribute("aria-invalid");
      this.help(input, "", false);
    },

    refused(status, body, data) {
      let reply = { error: "The server could not do this. Nothing was saved.", faults: [] };
      try { reply = JSON.parse(body); } catch { /* keep the plain sentence */ }
      this.state = "Not saved";
      if (status === 409) {
        this.conflict = true;
        const typed = [...data.entries()].filter(([name]) => name.startsWith("set:")).map(([, value]) => `“${value}”`);
        this.conflictText = typed.length ? `You had typed ${typed.join(", ")}; it was not saved over the newer one.` : "Your change was not made.";
        return;
      }
      const sent = [...data.keys()].filter((name) => name.startsWith("set:")).map((name) => this.input(name)).filter((input) => input && input.type !== "hidden");
      const faults = reply.faults.length ? reply.faults : [{ path: "", sentence: reply.error }];
      for (const fault of faults) {
        const input = this.input(`set:${fault.path}`) || sent[sent.length - 1];
        if (input) {
          input.setAttribute("aria-invalid", "true");
          input.dataset.unsaved = "yes";
          this.help(input, fault.sentence, true);
        } else {
          this.state = `Not done: ${fault.sentence}`;
        }
      }
    },

    help(input, text, bad) {
      const help = document.getElementById(`${input.id}-help`);
      if (!help) return;
      help.textContent = text;
      help.classList.toggle("bad", bad);
    },

    // Under a focused field stands what is accepted there.
    syncHelp() {
      this.root().addEventListener("focusin", (event) => {
        const help = document.getElementById(`${event.target.id}-help`);
        if (help && !help.classList.contains("bad")) help.textContent = help.dataset.help;
      });
      this.root().addEventListener("focusout", (event) => {
        const help = document.getElementById(`${event.target.id}-help`);
        if (help && !help.classList.contains("bad")) help.textContent = "";
      });
    },

    // Swap the page for what the server drew; refused entries stay as typed.
    swap(html) {
      const kept = [...this.root().querySelectorAll("[data-unsaved]")].map((input) => [input.id, input.value]);
      const typing = [...this.root().querySelectorAll("[data-typing]")];
      const open = [...this.root().querySelectorAll("details[open]")].map((item) => item.id).filter(Boolean);
      const focus = document.activeElement ? document.activeElement.id : "";
      window.Alpine.morph(this.root(), html, { updating: (from, to, children, skip) => { if (from.nodeType === 1 && from.isEqualNode(to)) skip(); } });
      for (const input of typing) input.dataset.typing = "yes";
      // A field being typed in is not touched at all, or the browser forgets that it was changed.
      for (const input of this.root().querySelectorAll("input:not([type=hidden]):not([type=file]):not([data-typing])")) input.value = input.getAttribute("value") || "";
      for (const area of this.root().querySelectorAll("textarea:not([data-typing])")) area.value = area.textContent;
      for (const list of this.root().querySelectorAll("select")) for (const option of list.options) option.selected = option.hasAttribute("selected");
      for (const id of open) { const item = document.getElementById(id); if (item) item.open = true; }
      for (const [id, value] of kept) { const input = document.getElementById(id); if (input) { input.value = value; input.dataset.unsaved = "yes"; } }
      if (focus && document.activeElement === document.body) { const item = document.getElementById(focus); if (item) item.focus({ preventScroll: true }); }
      this.state = this.root().querySelector("[data-unsaved], [data-typing]") ? "Not saved yet" : this.savedText();
      this.drawn += 1;
      this.root().dataset.drawn = String(this.drawn);
      this.root().toggleAttribute("data-busy", this.waiting > 0);
    },

    // The load is turned up: show the frame the server worked out for this step of the slider.
    turnUp(event) {
      const card = document.getElementById("ladder");
      const step = Number(event.target.value);
      const frame = JSON.parse(card.dataset.frames)[step];
      document.getElementById("turn-up-says").textContent = frame.says;
      for (const rung of card.querySelectorAll("[data-frame]")) rung.classList.toggle("passed", Number(rung.dataset.frame) <= step);
      const line = this.root().querySelector(".line");
      line.classList.toggle("turned-up", event.target.value !== event.target.defaultValue);
      for (const part of this.root().querySelectorAll(".sheet-drawing [data-part]")) part.classList.toggle("gave", frame.given.includes(part.dataset.part));
      const shafts = line.querySelectorAll(".shaft");
      frame.torques.forEach(([number, unit], index) => {
        const place = shafts[index] && shafts[index].querySelector("[data-torque]");
        if (!place) return;
        place.querySelector("b").textContent = number;
        place.querySelector("small").textContent = unit;
      });
      const posts = line.querySelectorAll(".link");
      frame.posts.forEach((post, index) => {
        if (post === null || !posts[index]) return;
        const [level, state, number] = post;
        const water = posts[index].querySelector(".water");
        water.setAttribute("height", String(92 * level));
        water.setAttribute("y", String(109 - 92 * level));
        posts[index].querySelector(".staff").setAttribute("class", `staff staff-${state}`);
        posts[index].querySelector(".use b").textContent = number;
      });
    },

    // A menu closes when something in it was chosen, or when the person turns elsewhere.
    closeMenus(except) {
      for (const menu of document.querySelectorAll("details[data-menu][open]")) if (!menu.contains(except)) menu.open = false;
    },

    pressed(event) {
      this.closeMenus(event.target);
      const step = event.target.closest("[data-step]");
      if (step) { this.stepStock(document.getElementById(step.dataset.for), Number(step.dataset.step)); return; }
      const link = event.target.closest("a[data-live]");
      if (!link || event.metaKey || event.ctrlKey || event.shiftKey || event.button) return;
      event.preventDefault();
      this.go(link.getAttribute("href"), true);
    },

    go(address, remember) {
      this.next(async () => {
        const page = address.split("#")[0];
        const place = address.split("#")[1];
        try {
          const answer = await fetch(page || location.pathname, { headers: { "X-Fragment": "1" } });
          if (!answer.ok) { location.assign(page); return; }
          this.swap(await answer.text());
        } catch { this.state = "No answer from the server"; return; }
        if (remember) history.pushState({}, "", page);
        const target = place && document.getElementById(place);
        if (target) { target.scrollIntoView({ block: "nearest" }); if (place === "working") target.focus({ preventScroll: true }); }
      });
    },

    walked() { this.go(location.pathname + location.search, false); },
    showNewer() { this.conflict = false; this.go(location.pathname + location.search, false); },
    help_() { document.getElementById("keys").showModal(); },

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
      if (event.metaKey || event.ctrlKey || event.altKey) return;
      if (event.key === "Escape") this.closeMenus();
      const field = event.target.closest ? event.target.closest("input, select, textarea, dialog[open]") : null;
      if (field) {
        if (field.dataset.stock && (event.key === "+" || event.key === "-") && field.selectionStart === field.value.length) {
          event.preventDefault();
          this.stepStock(field, event.key === "+" ? 1 : -1);
        }
        return;
      }
      this.command(event);
    },

    command(event) {
      if (this.goKey) {
        this.goKey = false;
        const places = { n: "need", d: "duty", o: "source", t: "" };
        if (event.key === "s") location.assign("/");
        else if (event.key in places) this.go(this.address({ at: places[event.key] }), true);
        return;
      }
      const actions = {
        g: () => { this.goKey = true; },
        u: () => this.afterSaving("undo"),
        U: () => this.afterSaving("redo"),
        w: () => this.go(`${this.address({ show: this.lastSpeed() })}#working`, true),
        "?": () => this.help_(),
        ArrowLeft: () => this.walk(-1),
        ArrowRight: () => this.walk(1),
      };
      if (event.key in actions) { event.preventDefault(); actions[event.key](); }
    },

    // A change still on its way is what the person means to take back.
    afterSaving(name) { this.next(() => document.getElementById(name).click()); },

    lastSpeed() { return `shaft-${this.root().querySelectorAll(".shaft").length}/speed`; },

    address(changes) {
      const query = new URLSearchParams(location.search);
      for (const [name, value] of Object.entries(changes)) { if (value) query.set(name, value); else query.delete(name); }
      return `${location.pathname}?${query}`;
    },

    walk(direction) {
      const links = [...this.root().querySelectorAll(".link")].map((item) => item.id);
      const here = links.indexOf(new URLSearchParams(location.search).get("at"));
      const next = links[here < 0 ? (direction > 0 ? 0 : links.length - 1) : Math.min(Math.max(here + direction, 0), links.length - 1)];
      if (next) this.go(this.address({ at: next }), true);
    },

    leaving(event) {
      if (this.waiting || this.root().querySelector("[data-unsaved], [data-typing]")) event.preventDefault();
    },
  }));
});
