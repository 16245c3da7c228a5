"""What an edit brings with it: a value that comes out of one is settled before it is kept.

Settled are the pages that stories need, the masters that rules give them, where sections begin,
lists, references and the numbers of notes.  A history holds settled values alone.
"""
