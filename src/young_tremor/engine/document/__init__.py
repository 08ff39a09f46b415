"""The open document: session, undo, unsaved work, who has it open."""
