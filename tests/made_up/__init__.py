"""One made-up record for each register, as someone would add it: files, and nothing edited."""
