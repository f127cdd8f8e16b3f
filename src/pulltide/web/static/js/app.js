// Screen state only: what a machine's page does is in transport, turning, keyboard and slider.
document.addEventListener("alpine:init", () => {
  const { transport, entries, turning, keyboard, palette, slider } = window.pulltide;
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
      this.recallEntries();
      this.showSaved();
    },

    ...transport,
    ...entries,
    ...turning,
    ...keyboard,
    ...palette,
    ...slider,
  }));
});
