import { Gullpost } from "@gullpost/capacitor";
import { Tollbuoy } from "@tollbuoy/capacitor";

void Tollbuoy.start({ publishableKey: "tbp92d0c7e1a4b8f3650e9c7d1a4b82" });
void Gullpost.register();
