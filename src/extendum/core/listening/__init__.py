"""What words that are said mean to those who hear them; asked by the timeline, and by every check of words."""
