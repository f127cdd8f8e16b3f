// Shows the frame that the server worked out for each step of the load slider.
window.pulltide = window.pulltide || {};
window.pulltide.slider = {
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
      posts[index].querySelector(".use-gauge").setAttribute("class", `use-gauge use-gauge-${state}`);
      posts[index].querySelector(".use b").textContent = number;
    });
  },
};
