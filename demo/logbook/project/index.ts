import { registerRootComponent } from "expo";
import { Log } from "./src/Log";

registerRootComponent(Log);
