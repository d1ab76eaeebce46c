document.addEventListener("deviceready", function () {
  quaymap.show("map");
  tidewire.subscribe("harbour", function (tide) {
    document.body.dataset.tide = tide;
  });
});
