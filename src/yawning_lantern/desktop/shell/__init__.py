"""The window and what holds it together: menus, commands, files, looks, exports."""
