// Screen state only: what a machine's page does is in transport, turning, keyboard, slider and dragging.
// Under a field that is being filled in stands what it is and what is accepted there; a refusal stays. While a finger
// or button is down nothing is taken away: what is pressed would move from under it.
const under = { pressing: false, leaving: new Set() };
const helpOf = (target) => {
  const help = target.id && document.getElementById(`${target.id}-help`);
  return help && help.dataset.help !== undefined && !help.classList.contains("bad") ? help : null;
};
const leaveAll = () => {
  for (const help of under.leaving) if (helpOf({ id: help.id.replace(/-help$/, "") }) === help) help.textContent = "";
  under.leaving.clear();
};
document.addEventListener("pointerdown", () => { under.pressing = true; }, true);
for (const event of ["pointerup", "pointercancel"]) {
  document.addEventListener(event, () => { under.pressing = false; setTimeout(leaveAll); }, true);
}
document.addEventListener("focusin", ({ target }) => {
  const help = helpOf(target);
  if (help) help.textContent = help.dataset.help;
  under.leaving.delete(help);
});
document.addEventListener("focusout", ({ target }) => {
  const help = helpOf(target);
  if (help) under.leaving.add(help);
  if (!under.pressing) leaveAll();
});

document.addEventListener("alpine:init", () => {
  window.Alpine.data("gallery", () => ({
    // Every word must begin one of a tile's words; groups without a tile go too.
    narrow(event) {
      const words = event.target.value.toLowerCase().split(/\s+/).filter(Boolean);
      let left = 0;
      for (const group of this.$root.querySelectorAll(".gallery-group, .find-group")) {
        let here = 0;
        for (const tile of group.querySelectorAll("[data-words]")) {
          tile.hidden = !words.every((word) => ` ${tile.dataset.words}`.includes(` ${word}`));
          here += Number(!tile.hidden);
        }
        group.hidden = here === 0;
        left += here;
      }
      this.$root.querySelector(".gallery-none").hidden = left > 0;
    },

    takeFirst() {
      const tile = this.$root.querySelector(".gallery-group:not([hidden]) .gallery-tile:not([hidden])");
      if (tile) tile.click();
    },
  }));
  const { transport, entries, turning, keyboard, palette, slider, dragging, rings, strips, listening, together, rotor } = window.pulltide;
  window.Alpine.data("train", () => ({
    state: "",
    conflict: false,
    conflictText: "",
    queue: Promise.resolve(),
    waiting: 0,
    goKey: false,
    drawn: 0,
    others: [],

    init() {
      this.state = this.savedText();
      this.recallEntries();
      this.showSaved();
      this.lookAgain();
      this.offerRecording();
      this.joinOthers();
      this.offerTurning();
    },

    ...transport,
    ...entries,
    ...turning,
    ...keyboard,
    ...palette,
    ...slider,
    ...dragging,
    ...rings,
    ...strips,
    ...listening,
    ...together,
    ...rotor,
  }));
});
