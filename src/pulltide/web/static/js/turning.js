// Turns the page elsewhere: links, the way back, menus.
window.pulltide = window.pulltide || {};
window.pulltide.turning = {
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
    // pressed by a key: the keys go on from what is opened, and from where it was opened once it is closed
    this.go(link.getAttribute("href"), true, event.detail === 0);
  },

  // The old place takes no entry from the moment that another is asked for, however long the answer takes.
  go(address, remember, byKey) {
    const from = new URLSearchParams(location.search).get("at");
    const rests = this.rest();
    return this.next(async () => {
      const page = address.split("#")[0];
      const place = address.split("#")[1];
      try {
        const answer = await fetch(page || location.pathname, { headers: this.asFragment });
        if (!answer.ok) { location.assign(page); return; }
        this.swap(await answer.text());
      } catch { this.state = said("No answer from the server"); return; }
      if (remember) history.pushState({}, "", page);
      if (byKey) this.focusOn(place, from);
      const target = place && document.getElementById(place);
      if (target) { target.scrollIntoView({ block: "nearest" }); if (place === "working") target.focus({ preventScroll: true }); }
    }).finally(rests);
  },

  // Into the form that was opened, or back to the card that it was opened from.
  focusOn(place, from) {
    const opened = place === "bench" && document.querySelector("#bench input:not([type=hidden]), #bench select, #bench button");
    const back = from && document.querySelector(`#${CSS.escape(from)} a`);
    const target = opened || (place === "working" ? null : back);
    if (target) target.focus();
  },

  walked() { this.go(location.pathname + location.search, false); },
  showNewer() { this.conflict = false; this.go(location.pathname + location.search, false); },
  printOut() { window.print(); },
  help_() { document.getElementById("keys").showModal(); },
};
