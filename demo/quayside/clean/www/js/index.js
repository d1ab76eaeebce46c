document.addEventListener("deviceready", function () {
  quaymap.show("map");
  if (window.tidewire) {
    tidewire.subscribe("harbour", function (tide) {
      document.body.dataset.tide = tide;
    });
  }
});
