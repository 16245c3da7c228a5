"""Made-up prose in three languages, from which texts of any length are drawn by seed.

Words are drawn as often as they stand here, so that their lengths and the places where they are
divided are those of the language.
"""

from __future__ import annotations

import random

ENGLISH = """
The house at the end of the harbour had been empty for eleven winters when the surveyor came to
measure it. She walked through the rooms with a lantern and a notebook, and wherever she stopped
she wrote down what nobody had asked her to write: that the wallpaper in the northern bedroom
showed herons, that somebody had counted the days on the doorframe, and that the kitchen smelled
of oranges although there was nothing in it. Afterwards, when people wanted to know why her
report was so unusually long, she answered that a building is mostly what has happened inside it,
and that walls are merely the part which can be photographed. The committee disagreed, politely
and in writing. They required the dimensions, the condition of the foundations, an estimate for
the roof and a recommendation; everything else, they suggested, might be kept for a novel. She
thanked them and returned in November, this time with an assistant, a considerable quantity of
rope, and a permission that she had signed herself. What they discovered under the staircase
would occupy historians for a generation: forty-two boxes of correspondence, carefully arranged
by season, in which two neighbours had described to each other, for more than thirty years, the
weather as it appeared from their respective windows. Neither of them had ever mentioned that the
windows faced the same street. It was, as an extraordinarily patient librarian later observed,
the most complete record of misunderstanding in the possession of any municipality, and certainly
the most affectionate. The letters were catalogued, transcribed and exhibited; visitors stood in
front of them for hours, comparing clouds. Nobody measured the house again.
"""

GERMAN = """
Als die Vermessungsbeamtin zum ersten Mal das Haus am Ende des Hafens betrat, hatte dort seit elf
Jahren niemand mehr gewohnt. Sie ging mit einer Laterne und einem Notizbuch durch die Zimmer, und
überall, wo sie stehenblieb, schrieb sie auf, wonach sie niemand gefragt hatte: dass die Tapete
im nördlichen Schlafzimmer Fischreiher zeigte, dass jemand die Tage am Türrahmen gezählt hatte
und dass die Küche nach Apfelsinen roch, obwohl nichts darin war. Später, als man wissen wollte,
weshalb ihr Bericht so ungewöhnlich ausführlich geraten sei, antwortete sie, ein Gebäude bestehe
hauptsächlich aus dem, was sich darin ereignet habe, und die Wände seien lediglich derjenige
Teil, der sich fotografieren lasse. Der Bauausschuss widersprach, höflich und schriftlich.
Benötigt würden die Abmessungen, der Zustand der Grundmauern, ein Kostenvoranschlag für das Dach
und eine Empfehlung; alles Übrige könne sie sich für einen Roman aufheben. Sie bedankte sich und
kam im November zurück, diesmal mit einem Gehilfen, einer beträchtlichen Menge Seil und einer
Genehmigung, die sie selbst unterschrieben hatte. Was die beiden unter dem Treppenhaus fanden,
sollte die Geschichtsforschung eine Generation lang beschäftigen: zweiundvierzig Schachteln voller
Briefe, sorgfältig nach Jahreszeiten geordnet, in denen zwei Nachbarinnen einander mehr als
dreißig Jahre lang das Wetter beschrieben hatten, wie es sich aus ihren jeweiligen Fenstern
darstellte. Keine von ihnen hatte jemals erwähnt, dass die Fenster auf dieselbe Straße
hinausgingen. Es handle sich, bemerkte eine außerordentlich geduldige Bibliothekarin, um die
vollständigste Sammlung von Missverständnissen, über die eine Gemeindeverwaltung verfüge, und
jedenfalls um die zärtlichste. Die Briefe wurden verzeichnet, abgeschrieben und ausgestellt; die
Besucher standen stundenlang davor und verglichen Wolken. Das Haus hat niemand mehr vermessen.
"""

FRENCH = """
La maison du bout du port était inhabitée depuis onze hivers quand l’arpenteuse vint la mesurer.
Elle traversa les pièces avec une lanterne et un carnet, et partout où elle s’arrêtait elle notait
ce que personne ne lui avait demandé : que le papier peint de la chambre du nord représentait des
hérons, que quelqu’un avait compté les jours sur le montant de la porte, et que la cuisine sentait
l’orange alors qu’il n’y restait rien. Plus tard, lorsqu’on voulut savoir pourquoi son rapport
était d’une longueur si extraordinaire, elle répondit qu’un bâtiment consiste principalement en
ce qui s’y est passé, et que les murs ne sont que la partie que l’on peut photographier. La
commission exprima son désaccord, poliment et par écrit. Il lui fallait les dimensions, l’état
des fondations, une évaluation de la toiture et une recommandation ; tout le reste, suggérait-on,
pouvait être réservé à un roman. Elle remercia et revint en novembre, accompagnée cette fois d’un
assistant, d’une quantité considérable de corde et d’une autorisation qu’elle avait signée
elle-même. Ce qu’ils découvrirent sous l’escalier devait occuper les historiens pendant une
génération : quarante-deux boîtes de correspondance, soigneusement rangées par saison, dans
lesquelles deux voisines s’étaient décrit mutuellement, pendant plus de trente ans, le temps tel
qu’il apparaissait de leurs fenêtres respectives. Aucune des deux n’avait jamais mentionné que
ces fenêtres donnaient sur la même rue. C’était, observa une bibliothécaire exceptionnellement
patiente, la collection de malentendus la plus complète que possédât une municipalité, et
certainement la plus affectueuse. Les lettres furent inventoriées, transcrites et exposées ; les
visiteurs restaient devant elles pendant des heures, à comparer les nuages. Personne ne mesura
plus jamais la maison.
"""

PASSAGES = {"en_GB": ENGLISH, "de_DE": GERMAN, "fr_FR": FRENCH}


def paragraphs(language: str, words: int, seed: int = 7) -> list[str]:
    """Paragraphs of 20 to 100 words, so many words in all."""
    rng = random.Random(seed)
    known = PASSAGES[language].split()
    found, left = [], words
    while left > 0:
        size = min(rng.randint(20, 100), left)
        # Stretches of a few words, so that marks stay behind the words they belong to.
        drawn: list[str] = []
        while len(drawn) < size:
            at = rng.randrange(len(known) - 3)
            drawn += known[at : at + rng.randint(1, 3)]
        found.append(" ".join(drawn[:size]))
        left -= size
    return found
