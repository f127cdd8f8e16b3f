// Stages are put elsewhere in the line by dragging their cards; the buttons and keys of the bench do the same.
window.pulltide = window.pulltide || {};
window.pulltide.dragging = {
  dragged: null,

  mover() {
    const input = document.querySelector('.line input[name=operation][value=move_link]');
    return input ? input.form : null;
  },

  stageOf(event) { return event.target.closest ? event.target.closest("li.link") : null; },

  dragStart(event) {
    const card = this.stageOf(event);
    if (!card || !this.mover()) return;
    this.dragged = card;
    event.dataTransfer.effectAllowed = "move";
    event.dataTransfer.setData("text/plain", card.id);
    card.classList.add("dragged");
  },

  dragOver(event) {
    const card = this.stageOf(event);
    if (!this.dragged || !card || card === this.dragged) return;
    event.preventDefault();
    for (const other of document.querySelectorAll("li.link.over")) if (other !== card) other.classList.remove("over");
    card.classList.add("over");
  },

  dragEnd() {
    for (const card of document.querySelectorAll("li.link")) card.classList.remove("over", "dragged");
    this.dragged = null;
  },

  // The stage takes the place of the one that it is let go on; those between move up.
  dropped(event) {
    const card = this.stageOf(event);
    const from = this.dragged;
    this.dragEnd();
    if (!card || !from || card === from) return;
    event.preventDefault();
    const form = this.mover();
    form.elements.index.value = Number(from.id.split("-")[1]) - 1;
    form.elements.kind.value = Number(card.id.split("-")[1]) - 1;
    form.requestSubmit();
  },
};
