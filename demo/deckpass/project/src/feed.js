/** Keeps the tide of the next harbour up to date. */
export function watchTides() {
  Tidewire.subscribe("harbour", (tide) => {
    console.log(`The tide stands at ${tide} m`);
  });
}
