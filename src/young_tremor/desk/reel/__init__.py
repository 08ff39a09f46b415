"""The shots as contact prints: ``reel`` the column, ``prints`` their pictures."""
