// Sends edits one after the other, swaps in what the server drew, and never loses what was typed.
window.pulltide = window.pulltide || {};
window.pulltide.transport = {
  busy(change) {
    this.waiting += change;
    this.root().toggleAttribute("data-busy", this.waiting > 0);
  },

  root() { return document.getElementById("train"); },
  savedText() { return document.getElementById("saved").dataset.saved; },
  token() { return document.querySelector('meta[name="form-token"]').content; },

  // A field was left or Enter pressed. What was refused before goes with it, for two may only be right together; if that
  // is refused again, the field goes alone: one bad entry holds up no other.
  changed(event) {
    const form = event.target.closest("form[data-edit]");
    // Only a field of the machine is saved when it is left; what an operation takes waits for its button.
    if (!form || !event.target.name.startsWith("set:")) return;
    this.hold(event.target);
    this.sendField(form, event.target);
  },

  sendField(form, input) {
    const waiting = [...form.querySelectorAll("[data-unsaved]")].filter((other) => other !== input);
    this.send(form, this.partial(form), waiting.length ? this.partial(form, input) : null);
  },

  // A field on its way to the server: kept as typed until it is saved.
  hold(input) {
    input.dataset.unsaved = "yes";
    delete input.dataset.typing;
  },

  // The hidden fields of a form with all its unsaved ones, or with one alone.
  partial(form, alone) {
    const data = new FormData();
    for (const input of form.querySelectorAll("input, select, textarea")) {
      if (input.type === "hidden" || (alone ? input === alone : input.dataset.unsaved)) data.append(input.name, input.value);
      if (input.type !== "hidden" && data.has(input.name)) data.append(input.name.replace(/^set:/, "was:"), this.drawnValue(input));
    }
    data.append("shape", this.root().dataset.shape);
    return data;
  },

  // What the server drew in a field: a change made elsewhere is only in the way where it changed that.
  drawnValue(input) {
    if (input.tagName !== "SELECT") return input.defaultValue;
    const drawn = [...input.options].find((option) => option.defaultSelected) || input.options[0];
    return drawn ? drawn.value : "";
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
      this.sendField(form, document.activeElement);
    }
  },

  typing(event) {
    if (!event.target.matches("form[data-edit] input, form[data-edit] textarea")) return;
    event.target.dataset.typing = "yes";
    this.state = said("Not saved yet");
  },

  // A field left as it was found: the browser reports no change, and there is none to save.
  left(event) {
    const input = event.target;
    if (!input.dataset.typing || input.dataset.unsaved || input.value !== input.defaultValue) return;
    delete input.dataset.typing;
    this.showSaved();
  },

  showSaved() {
    const waiting = [...this.root().querySelectorAll("[data-unsaved], [data-typing]")].some((input) => !this.isRefused(input));
    this.state = waiting ? said("Not saved yet") : this.entries.length ? said("Not all saved") : this.savedText();
  },

  isRefused(input) { return this.entries.some((entry) => input.name === `set:${entry.path}` && input.value === entry.text); },

  // Edits go one after the other, each made for the version the one before it produced.
  send(form, data, otherwise) {
    const address = form.action;
    this.state = said("Saving…");
    // Stages change their places: until that is drawn, nothing may be aimed at the old ones.
    const rests = data.has("operation") ? this.rest() : () => {};
    this.next(() => this.post(address, data, otherwise)).finally(rests);
  },

  // Nothing of the place that is shown takes an entry until it is drawn anew; gives what ends that.
  rest() {
    const parts = [document.getElementById("main"), document.getElementById("side")].filter(Boolean);
    for (const part of parts) part.inert = true;
    return () => { for (const part of [document.getElementById("main"), document.getElementById("side")]) if (part) part.inert = false; };
  },

  // An answer comes without remedies first; each is tried on the whole plan, which takes longer than the rest.
  asFragment: { "X-Fragment": "1", "X-Remedies": "later" },

  // Fetches the remedies once hands rest. Whatever the person does meanwhile makes the answer old.
  async fetchLater() {
    const drawn = this.drawn;
    if (!this.root().querySelector("[data-later]")) return;
    await new Promise((done) => setTimeout(done, 150));
    if (drawn !== this.drawn || this.waiting) return;
    try {
      const answer = await fetch(this.root().dataset.address, { headers: { "X-Fragment": "1" } });
      const body = answer.ok ? await answer.text() : "";
      if (body && drawn === this.drawn && this.waiting === 0) this.swap(body);
    } catch { /* The findings and their advice stand; the next answer tries again. */ }
  },

  // What is still being worked out is asked for again, as long as the person stays and does nothing else.
  async lookAgain() {
    const drawn = this.drawn;
    if (!this.root().querySelector("[data-again]")) return;
    await new Promise((done) => setTimeout(done, 1500));
    if (drawn !== this.drawn || this.waiting || !this.root().querySelector("[data-again]")) return;
    this.go(location.pathname + location.search, false);
  },

  // One thing after the other; a fault in one does not hold up the next.
  next(work) {
    this.busy(1);
    this.queue = this.queue.then(work).finally(() => { this.busy(-1); if (this.waiting === 0) { this.fetchLater(); this.lookAgain(); this.takeNewer(); } }).catch((fault) => { this.state = said("Something went wrong; load the page again"); console.error(fault); });
    return this.queue;
  },

  async post(address, data, otherwise) {
    const [answer, body] = await this.answered(address, data);
    if (answer.ok) {
      const shape = this.root().dataset.shape;
      for (const [name] of data.entries()) this.settled(name);
      if (data.has("operation")) this.moveEntries(data);
      this.swap(body);
      if (!data.has("operation") && shape !== this.root().dataset.shape) this.moveEntries(data, "reshaped");
      history.replaceState({}, "", this.root().dataset.address);
    } else if (answer.status === 422 && otherwise) {
      await this.post(address, otherwise);
    } else {
      this.refused(answer.status, body, data);
    }
  },

  // An answer, however long it takes: what was typed is kept and sent again until there is one.
  async answered(address, data) {
    for (;;) {
      data.set("version", this.root().dataset.version);
      try {
        const headers = { ...this.asFragment, "X-Form-Token": this.token() };
        const answer = await fetch(address, { method: "POST", body: data, headers, signal: AbortSignal.timeout(20000) });
        return [answer, await answer.text()];
      } catch {
        this.state = said("No answer, still trying; your entry is kept");
        await new Promise((done) => setTimeout(done, 2000));
      }
    }
  },

  input(name) { return this.root().querySelector(`[name="${CSS.escape(name)}"]`); },

  settled(name) {
    const input = this.input(name);
    if (!input || input.type === "hidden") return;
    delete input.dataset.unsaved;
    input.removeAttribute("aria-invalid");
    this.help(input, "", false);
    this.forget(input.name.replace(/^set:/, ""));
  },

  refused(status, body, data) {
    let reply = { error: said("The server could not do this. Nothing was saved."), faults: [] };
    try { reply = JSON.parse(body); } catch { /* keep the plain sentence */ }
    this.state = said("Not saved");
    if (status === 409) {
      this.conflict = true;
      const typed = [...data.entries()].filter(([name]) => name.startsWith("set:")).map(([, value]) => `“${value}”`);
      this.conflictText = typed.length ? said("You had typed {entries}; it was not saved over the newer one.", { entries: typed.join(", ") }) : said("Your change was not made.");
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
        this.remember(input, fault.sentence);
      } else {
        this.state = said("Not done: {why}", { why: fault.sentence });
      }
    }
  },

  help(input, text, bad) {
    const help = document.getElementById(`${input.id}-help`);
    if (!help) return;
    help.textContent = text;
    help.classList.toggle("bad", bad);
  },

  // Swap the page for what the server drew; refused entries stay as typed.
  swap(html) {
    const kept = [...this.root().querySelectorAll("[data-unsaved]")].map((input) => [input.name, input.value]);
    const typing = [...this.root().querySelectorAll("[data-typing]")];
    const open = [...this.root().querySelectorAll("details[open]")].map((item) => item.id).filter(Boolean);
    const focus = document.activeElement ? document.activeElement.id : "";
    // A row of a list stays the row of its part: data-key tells them apart.
    window.Alpine.morph(this.root(), html, { key: (item) => item.dataset.key, updating: (from, to, children, skip) => { if (from.nodeType === 1 && (from.isEqualNode(to) || from.matches("dialog[open]"))) skip(); } });
    for (const input of typing) input.dataset.typing = "yes";
    // A field being typed in is not touched at all, or the browser forgets that it was changed.
    // So is one in a dialog that is open: what is typed there belongs to no form of the page.
    for (const input of this.root().querySelectorAll("input:not([type=hidden]):not([type=file]):not([data-typing])")) if (!input.closest("dialog[open]")) input.value = input.getAttribute("value") || "";
    for (const area of this.root().querySelectorAll("textarea:not([data-typing])")) area.value = area.textContent;
    for (const list of this.root().querySelectorAll("select")) for (const option of list.options) option.selected = option.hasAttribute("selected");
    for (const box of this.root().querySelectorAll("input[type=checkbox]:not([data-unsaved])")) box.checked = box.hasAttribute("checked");
    for (const id of open) { const item = document.getElementById(id); if (item) item.open = true; }
    for (const [name, value] of kept) {
      const input = this.input(name);
      if (!input) continue;
      input.dataset.unsaved = "yes";
      if (!input.dataset.typing) input.value = value;
    }
    this.putEntriesBack();
    if (focus && document.activeElement === document.body) { const item = document.getElementById(focus); if (item) item.focus({ preventScroll: true }); }
    this.showSaved();
    this.drawn += 1;
    this.root().dataset.drawn = String(this.drawn);
    this.root().toggleAttribute("data-busy", this.waiting > 0);
    this.showOthers();
    this.stayAwake();
    this.offerTurning();
  },

  leaving(event) {
    const typed = [...this.root().querySelectorAll("[data-unsaved], [data-typing]")].some((input) => !this.isRefused(input));
    if (this.waiting || typed) event.preventDefault();
  },
};
