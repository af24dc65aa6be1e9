"""The view Scenes: the evening from song to song."""
