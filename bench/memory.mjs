process.on("exit", () => process.stderr.write(`maxrss ${process.resourceUsage().maxRSS}\n`));
