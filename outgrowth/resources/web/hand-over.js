/* The controls of the hand-over page. */
for (const form of document.querySelectorAll(".controls")) {
  const element = form.parentElement.querySelector(".stage").firstElementChild;
  for (const field of form.querySelectorAll("[data-for]")) {
    const name = field.dataset.for;
    if (field.type === "text") field.placeholder = element[name.replace(/-(.)/g, (_, letter) => letter.toUpperCase())] ?? "";
    field.addEventListener("input", () => {
      if (field.type === "checkbox") element.toggleAttribute(name, field.checked);
      else if (field.value) element.setAttribute(name, field.value);
      else element.removeAttribute(name);
    });
  }
  element.addEventListener("change", follow);
  element.addEventListener("toggle", follow);
  function follow(event) {
    if (event.target !== element) return;
    const field = form.querySelector(`[data-for="${event.detail?.name}"]`);
    if (field?.type === "checkbox") field.checked = element.hasAttribute(field.dataset.for);
    else if (field) field.value = event.detail.value;
  }
  form.addEventListener("submit", (event) => event.preventDefault());
}
for (const swatch of document.querySelectorAll(".swatch")) swatch.style.background = `var(${swatch.dataset.token})`;
