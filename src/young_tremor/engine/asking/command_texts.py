"""What can be done by a command, in words: its name, its menu, what stands there, its keys. What it does stands in
``desk.window.commands``."""

from __future__ import annotations

from dataclasses import dataclass

MENUS = ("Project", "Edit", "Shot", "Shake", "Picture", "Chart", "Window", "Help")


@dataclass(frozen=True)
class CommandText:
    """A command in words. ``name`` never changes; ``keys`` as Qt writes them; ``shot``: it needs one; ``menu_only``:
    it is a menu of its own."""

    name: str
    menu: str
    words: str
    keys: tuple[str, ...] = ()
    shot: bool = False
    menu_only: bool = False


#: By name, in the order of the menus.
COMMAND_TEXTS: dict[str, CommandText] = {
    text.name: text
    for text in (
        CommandText("new", "Project", "New project", ("Ctrl+N",)),
        CommandText("open", "Project", "Open…", ("Ctrl+O",)),
        CommandText("recent", "Project", "Open recent", menu_only=True),
        CommandText("demo", "Project", "Open the demo"),
        CommandText("save", "Project", "Save", ("Ctrl+S",)),
        CommandText("save-as", "Project", "Save as…", ("Ctrl+Shift+S",)),
        CommandText("versions", "Project", "Earlier versions", menu_only=True),
        CommandText("find-footage", "Project", "Find missing footage…", shot=True),
        CommandText("gather", "Project", "Gather into a folder…", shot=True),
        CommandText("render", "Project", "Render…", ("Ctrl+R",), shot=True),
        CommandText("quit", "Project", "Quit", ("Ctrl+Q",)),
        CommandText("undo", "Edit", "Undo", ("Ctrl+Z",)),
        CommandText("redo", "Edit", "Redo", ("Ctrl+Shift+Z", "Ctrl+Y")),
        CommandText("delete", "Edit", "Delete", ("Del", "Backspace")),
        CommandText("history", "Edit", "Steps", menu_only=True),
        CommandText("find", "Edit", "Ask…", ("Ctrl+K",)),
        CommandText("preferences", "Edit", "Preferences…", ("Ctrl+,",)),
        CommandText("shots", "Shot", "Choose", menu_only=True),
        CommandText("shot-back", "Shot", "Shot before", ("Ctrl+PgUp",), shot=True),
        CommandText("shot-on", "Shot", "Shot after", ("Ctrl+PgDown",), shot=True),
        CommandText("title", "Shot", "Add a title", ("Shift+T",)),
        CommandText("fill", "Shot", "Add a fill"),
        CommandText("lay", "Shot", "Lay a graphic over it…", shot=True),
        CommandText("lay-glass", "Shot", "Lay one on the glass…", shot=True),
        CommandText("replace", "Shot", "Replace footage…", shot=True),
        CommandText("measure-own", "Shot", "Exaggerate its own shake", shot=True),
        CommandText("rename", "Shot", "Rename", ("F2",), shot=True),
        CommandText("split-shot", "Shot", "Split at the playhead", ("S",), shot=True),
        CommandText("duplicate", "Shot", "Duplicate", ("Ctrl+D",), shot=True),
        CommandText("shot-earlier", "Shot", "Move earlier", ("Alt+Left",), shot=True),
        CommandText("shot-later", "Shot", "Move later", ("Alt+Right",), shot=True),
        CommandText("copy", "Shot", "Copy shake", ("Ctrl+C",), shot=True),
        CommandText("paste", "Shot", "Paste shake", ("Ctrl+V",), shot=True),
        CommandText("along", "Shot", "What goes along", menu_only=True),
        CommandText("all-shots", "Shot", "Choose all", ("Ctrl+A",), shot=True),
        CommandText("span", "Shot", "Span over the chosen", ("Ctrl+Shift+N",), shot=True),
        CommandText("remove-shot", "Shot", "Remove from the reel", shot=True),
        CommandText("presets", "Shake", "Presets…", ("P",), shot=True),
        CommandText("takes", "Shake", "Takes…", ("T",)),
        CommandText("measure", "Shake", "Measure a clip…"),
        CommandText("follow", "Shake", "Follow what moves", shot=True),
        CommandText("holder", "Shake", "Let somebody hold it", shot=True),
        CommandText("add", "Shake", "Add a strand", menu_only=True),
        CommandText("add-sound", "Shake", "Add sound to this shake", ("Shift+S",), shot=True),
        CommandText("sounds", "Shake", "Add a sound", shot=True, menu_only=True),
        CommandText("chosen", "Shake", "Chosen strand", menu_only=True),
        CommandText("hit", "Shake", "Hit at the playhead", ("H",), shot=True),
        CommandText("hits-sound", "Shake", "Find hits in the sound", ("Shift+H",), shot=True),
        CommandText("hits-picture", "Shake", "Find hits in the picture", shot=True),
        CommandText("hits", "Shake", "Hits", shot=True, menu_only=True),
        CommandText("clear-hits", "Shake", "Remove all hits", shot=True),
        CommandText("variants", "Shake", "Variants", shot=True, menu_only=True),
        CommandText("new-course", "Shake", "New course", shot=True),
        CommandText("reset", "Shake", "Reset to its preset", shot=True),
        CommandText("keep", "Shake", "Save as preset…", shot=True),
        CommandText("shaken", "Picture", "Shaken", ("1",), shot=True),
        CommandText("still", "Picture", "Still", ("2",), shot=True),
        CommandText("split", "Picture", "Split", ("3",), shot=True),
        CommandText("side", "Picture", "Both", ("4",), shot=True),
        CommandText("overlay", "Picture", "Overlay", ("5",), shot=True),
        CommandText("difference", "Picture", "Difference", ("6",), shot=True),
        CommandText("overlays", "Picture", "Draw over it", menu_only=True),
        CommandText("closer", "Picture", "Look closer", ("+", "="), shot=True),
        CommandText("farther", "Picture", "Look from farther", ("-",), shot=True),
        CommandText("whole", "Picture", "As large as fits", ("Ctrl+0",), shot=True),
        CommandText("pixels", "Picture", "Pixel for pixel (100 %)", ("Ctrl+1",), shot=True),
        CommandText("brighter", "Picture", "Look at it brighter", shot=True),
        CommandText("darker", "Picture", "Look at it darker", shot=True),
        CommandText("as-exposed", "Picture", "Look at it as it is lit", shot=True),
        CommandText("magnifier", "Picture", "Magnifier", ("Z",)),
        CommandText("figures", "Picture", "Figures beside it", ("G",)),
        CommandText("full", "Picture", "Fill the screen", ("F11",)),
        CommandText("away", "Picture", "In a window of its own", ("Ctrl+F11",)),
        CommandText("play", "Chart", "Play or stop", ("Space",), shot=True),
        CommandText("back", "Chart", "One frame back", ("Left",), shot=True),
        CommandText("on", "Chart", "One frame on", ("Right",), shot=True),
        CommandText("second-back", "Chart", "One second back", ("Shift+Left",), shot=True),
        CommandText("second-on", "Chart", "One second on", ("Shift+Right",), shot=True),
        CommandText("hit-back", "Chart", "Hit before", ("Shift+PgUp",), shot=True),
        CommandText("hit-on", "Chart", "Hit after", ("Shift+PgDown",), shot=True),
        CommandText("first", "Chart", "First frame", ("Home",), shot=True),
        CommandText("last", "Chart", "Last frame", ("End",), shot=True),
        CommandText("mark-in", "Chart", "Mark from here", ("I",), shot=True),
        CommandText("mark-out", "Chart", "Mark to here", ("O",), shot=True),
        CommandText("unmark", "Chart", "No marks", ("X",)),
        CommandText("fit", "Chart", "Show the whole of it", ("F",)),
        CommandText("fit-keys", "Chart", "Fit to the keys", ("Shift+F",)),
        CommandText("fill-row", "Chart", "Fill the window with the chosen row", ("E",)),
        CommandText("scope", "Chart", "The reel", ("R",)),
        CommandText("compact", "Chart", "Low rows"),
        CommandText("rows", "Chart", "Rows", shot=True, menu_only=True),
        CommandText("frame-page", "Window", "The frame in the panel"),
        CommandText("plates-page", "Window", "The plates in the panel"),
        CommandText("frames", "Window", "Times in frames"),
        CommandText("night", "Window", "Night paper", ("Ctrl+T",)),
        CommandText("reel", "Window", "Fold the reel away", ("Ctrl+L",)),
        CommandText("tall-panel", "Window", "Panel at full height", ("Ctrl+Shift+L",)),
        CommandText("menus", "Window", "Menus", ("Ctrl+M",)),
        CommandText("menu", "Window", "Go to the menus", ("F10",)),
        CommandText("escape", "Window", "Close what lies over it", ("Esc",)),
        CommandText("manual", "Help", "Manual", ("Shift+F1",)),
        CommandText("keys", "Help", "Keys and commands", ("?", "F1")),
        CommandText("log", "Help", "Where errors are kept"),
        CommandText("about", "Help", "About Young Tremor"),
    )
}
