// Screen state only: what a machine's page does is in transport, turning, keyboard, slider and dragging.
// Under a field that is being filled in stands what it is and what is accepted there; a refusal stays.
for (const [event, text] of [["focusin", (help) => help.dataset.help], ["focusout", () => ""]]) {
  document.addEventListener(event, ({ target }) => {
    const help = target.id && document.getElementById(`${target.id}-help`);
    if (help && help.dataset.help !== undefined && !help.classList.contains("bad")) help.textContent = text(help);
  });
}

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
