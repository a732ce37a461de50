"""Commands as one declared table: menus, shortcuts, the help page and tests are made from it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Command:
    """`id` names a method of the window; `needs` what must be there for it: a design, something to undo …"""

    id: str
    menu: str
    words: str
    shortcut: str = ""
    needs: str = ""
    checkable: bool = False


COMMANDS = (
    Command("new_design", "&Design", "&New …", "Ctrl+N"),
    Command("open_design", "&Design", "&Open …", "Ctrl+O"),
    Command("open_demo", "&Design", "Open the &demo"),
    Command("save_design", "&Design", "&Save", "Ctrl+S", "design"),
    Command("save_design_as", "&Design", "Save &as …", "Ctrl+Shift+S", "design"),
    Command("preview_templates", "&Design", "Print &preview of templates …", "Ctrl+P", "study"),
    Command("export_pdf", "&Design", "Export templates as &PDF …", "Ctrl+E", "study"),
    Command("export_csv", "&Design", "Export &cut list as CSV …", "", "study"),
    Command("export_json", "&Design", "Export p&lan as JSON …", "", "study"),
    Command("quit_program", "&Design", "&Quit", "Ctrl+Q"),
    Command("undo", "&Edit", "&Undo", "Ctrl+Z", "undo"),
    Command("redo", "&Edit", "&Redo", "Ctrl+Shift+Z", "redo"),
    Command("rename_part", "&Edit", "Re&name part …", "F2", "design"),
    Command("turn_part", "&Edit", "&Turn part a quarter", "Ctrl+T", "part"),
    Command("put_part", "&Edit", "&Put a structure on it …", "Ctrl+K", "study"),
    Command("remove_part", "&Edit", "Take &off part", "Ctrl+Delete", "part"),
    Command("show_flat", "&View", "&Flat", "Ctrl+1", "study"),
    Command("show_shut", "&View", "&Shut", "Ctrl+2", "study"),
    Command("show_open", "&View", "&Open", "Ctrl+3", "study"),
    Command("less_open", "&View", "A little towards flat", "Ctrl+Left", "study"),
    Command("more_open", "&View", "A little towards open", "Ctrl+Right", "study"),
    Command("fit_views", "&View", "Fit the &pictures", "Ctrl+0", "study"),
    Command("mark_sides", "&View", "Which &side shows", "Ctrl+U", "study", True),
    Command("toggle_units", "&View", "&Millimetres", "Ctrl+M", "", True),
    Command("toggle_dark", "&View", "&Dark", "Ctrl+D", "", True),
    Command("larger_text", "&View", "&Larger text", "Ctrl+="),
    Command("smaller_text", "&View", "S&maller text", "Ctrl+-"),
    Command("page_idea", "&Go", "&Idea", "Alt+1"),
    Command("page_stock", "&Go", "&Stock", "Alt+2", "design"),
    Command("page_form", "&Go", "&Form", "Alt+3", "design"),
    Command("page_opening", "&Go", "&Opening", "Alt+4", "design"),
    Command("step_on", "&Opening", "Step &on", "Alt+Right", "study"),
    Command("step_back", "&Opening", "Step &back", "Alt+Left", "study"),
    Command("play_opening", "&Opening", "&Play or pause", "Ctrl+Space", "study"),
    Command("try_to_break", "&Opening", "&Try to break it", "Ctrl+B", "study"),
    Command("export_strip", "&Opening", "Export the opening as a &strip of pictures …", "", "study"),
    Command("export_film", "&Opening", "Export the opening as a &film …", "", "study"),
    Command("export_pose", "&Opening", "Export this p&ose as OBJ …", "", "study"),
    Command("show_help", "&Help", "First steps and &keys", "F1"),
)
