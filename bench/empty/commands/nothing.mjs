import { Command } from "@oclif/core";

export default class Nothing extends Command {
  async run() {}
}
