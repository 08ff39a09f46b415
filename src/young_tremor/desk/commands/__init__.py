"""What a command is, and how menus, keys and the finder come out of a list of them: ``registry``."""
