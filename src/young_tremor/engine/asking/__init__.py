"""What a person asks for in their own words: figures understood, and everything that can be done or set, found.

``grammar`` reads figures and their units; ``motion_phrase`` makes a motion of them; ``word_search`` ranks things by
words; ``settings_index`` knows every number, choice and switch of a project; ``ask`` puts them into one list. The
words themselves stand in ``assets/ask_words.json``, those of a number also in its description.
"""
