// The mark on strips over time follows the slider and says what is so there.
window.pulltide = window.pulltide || {};
window.pulltide.strips = {
  scrub(event) {
    const holder = document.querySelector(".stripped");
    const frames = JSON.parse(holder.dataset.frames);
    const frame = frames[Number(event.target.value)];
    holder.querySelector(".cursor path").setAttribute("transform", `translate(${frame.x} 0)`);
    holder.classList.add("marked");
    document.getElementById("scrub-says").textContent = frame.says;
  },
};
