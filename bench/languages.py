"""Words, fillers and pauses in other languages than English: ``python bench/languages.py [CODE…]``.

Sentences read by espeak-ng, with filler sounds and long pauses planted between their halves. Prints for each language the word
error rate, how many of the planted pieces the sweep finds, how many of its finds of words are right, how much of the kept words it
would hurt, and which language the recogniser takes it for.
"""

import random
import subprocess
import sys
import tempfile
from pathlib import Path

import numpy as np

HERE = Path(__file__).parent
sys.path.insert(0, str(HERE.parent))

from bench.accuracy import score
from bench.sounds import RATE, decode, write
from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.media.wav import read_wav
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import ALL_KINDS
from hovvet.core.words.timing import refiner
from hovvet.core.words.transcribe import transcribe
from tests.compare import normal_words, word_error_rate

FILLERS = {"de": "ähm", "es": "eh", "fr": "euh", "it": "ehm", "nl": "uhm", "pt": "hum"}
SENTENCES = {
    "de": """Die alte Uhr an der Wand | ist gestern stehen geblieben.
Wir haben sie geöffnet | und eine kleine Feder gefunden.
Der Nachbar brachte uns eine Leiter | die er im Keller hatte.
Um sechs Uhr kommen die Leute | mit ihren kaputten Lampen.
Er sagte, dass er nie wieder | ein neues Radio kaufen will.
Meine Großmutter hatte eine Maschine | mit der sie Kleider genäht hat.
Am Abend trinken wir Tee | und reden über den Hafen.
Die Kinder wollten wissen | wie ein Motor funktioniert.
Das Fahrrad hatte keine Klingel | also haben wir eine gebaut.
Wer etwas reparieren kann | wirft es nicht weg.""",
    "es": """El reloj viejo de la pared | se paró ayer por la tarde.
Lo abrimos con cuidado | y encontramos una pieza pequeña.
El vecino nos trajo una escalera | que tenía en el sótano.
A las seis llega la gente | con sus lámparas rotas.
Dijo que nunca más | quería comprar una radio nueva.
Mi abuela tenía una máquina | con la que cosía vestidos.
Por la noche bebemos té | y hablamos del puerto.
Los niños querían saber | cómo funciona un motor.
La bicicleta no tenía timbre | así que hicimos uno.
Quien sabe reparar algo | no lo tira a la basura.""",
    "fr": """La vieille horloge du mur | s'est arrêtée hier soir.
Nous l'avons ouverte | et nous avons trouvé une petite pièce.
Le voisin nous a apporté une échelle | qu'il avait dans la cave.
À six heures les gens arrivent | avec leurs lampes cassées.
Il a dit que plus jamais | il ne voulait acheter une radio neuve.
Ma grand-mère avait une machine | avec laquelle elle cousait des robes.
Le soir nous buvons du thé | et nous parlons du port.
Les enfants voulaient savoir | comment fonctionne un moteur.
Le vélo n'avait pas de sonnette | alors nous en avons fait une.
Celui qui sait réparer | ne jette rien.""",
    "it": """Il vecchio orologio sul muro | si è fermato ieri sera.
Lo abbiamo aperto con cura | e abbiamo trovato un piccolo pezzo.
Il vicino ci ha portato una scala | che aveva in cantina.
Alle sei arriva la gente | con le lampade rotte.
Ha detto che mai più | voleva comprare una radio nuova.
Mia nonna aveva una macchina | con cui cuciva i vestiti.
La sera beviamo il tè | e parliamo del porto.
I bambini volevano sapere | come funziona un motore.
La bicicletta non aveva il campanello | così ne abbiamo fatto uno.
Chi sa riparare qualcosa | non la butta via.""",
    "nl": """De oude klok aan de muur | is gisteren blijven stilstaan.
We hebben hem geopend | en een kleine veer gevonden.
De buurman bracht ons een ladder | die hij in de kelder had.
Om zes uur komen de mensen | met hun kapotte lampen.
Hij zei dat hij nooit meer | een nieuwe radio wil kopen.
Mijn oma had een machine | waarmee ze jurken maakte.
In de avond drinken we thee | en praten we over de haven.
De kinderen wilden weten | hoe een motor werkt.
De fiets had geen bel | dus hebben we er een gemaakt.
Wie iets kan repareren | gooit het niet weg.""",
    "pt": """O relógio velho da parede | parou ontem à tarde.
Nós o abrimos com cuidado | e encontramos uma peça pequena.
O vizinho nos trouxe uma escada | que tinha na garagem.
Às seis horas chegam as pessoas | com as suas lâmpadas quebradas.
Ele disse que nunca mais | queria comprar um rádio novo.
A minha avó tinha uma máquina | com que fazia vestidos.
À noite bebemos chá | e falamos sobre o porto.
As crianças queriam saber | como funciona um motor.
A bicicleta não tinha campainha | então fizemos uma.
Quem sabe consertar algo | não joga fora.""",
}


def say(text: str, language: str) -> np.ndarray:
    """A text read by espeak-ng, 16 kHz mono, silence trimmed."""
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "said.wav"
        voice = "pt-br" if language == "pt" else "fr-fr" if language == "fr" else language
        subprocess.run(["espeak-ng", "-v", voice, "-s", "140", "-w", str(out), text], check=True)
        sound = decode(out)
    loud = np.flatnonzero(np.abs(sound) > 0.01)
    return sound[max(loud[0] - 200, 0) : loud[-1] + 700]


def made(language: str) -> tuple[np.ndarray, list[dict]]:
    """A set of one language and its truth."""
    rng = random.Random(language)
    sound: list[np.ndarray] = [np.zeros(RATE // 2, np.float32)]
    truth: list[dict] = []
    at = len(sound[0])

    def add(label: str, part: str | float) -> None:
        nonlocal at
        samples = say(part, language) if isinstance(part, str) else np.zeros(int(part * RATE), np.float32)
        if isinstance(part, str) or label == "pause":
            text = part if isinstance(part, str) else ""
            truth.append({"label": label, "start": at / RATE, "end": (at + len(samples)) / RATE, "text": text})
        sound.append(samples)
        at += len(samples)

    for n, line in enumerate(SENTENCES[language].splitlines()):
        one, two = line.split(" | ")
        add("keep", one + ",")
        if n % 5 != 4:
            add("keep", rng.uniform(0.1, 0.3))
            add("filler", FILLERS[language] + ",")
        add("keep", rng.uniform(0.1, 0.3))
        add("keep", two)
        add("pause", rng.uniform(1.0, 2.0)) if n % 2 else add("keep", rng.uniform(0.35, 0.5))
    whole = np.concatenate(sound)
    return whole + np.random.default_rng(1).normal(0, 0.0006, len(whole)).astype(np.float32), truth


def main(codes: list[str]) -> None:
    """Print it all."""
    with tempfile.TemporaryDirectory() as folder:
        for language in codes or list(SENTENCES):
            sound, truth = made(language)
            wav = Path(folder) / "set.wav"
            write(wav, sound)
            recogniser = WhisperRecogniser(language=language)
            transcript = transcribe(wav, recogniser, refiner(language), lambda _part: None)
            settings = SweepSettings.usual(language).model_copy(update={"kinds": ALL_KINDS})
            result = score(transcript, read_wav(wav), truth, settings)
            said = normal_words(" ".join(each["text"] for each in truth if each["label"] == "keep"))
            heard = normal_words(" ".join(word.text for word in transcript.words if word.kind == "word"))
            print(f"{language}: word error rate {word_error_rate(said, heard):.3f}; {result.line()}", flush=True)
            for line in result.why if "--why" in sys.argv else ():
                print(f"    {line}")


if __name__ == "__main__":
    main([each for each in sys.argv[1:] if not each.startswith("--")])
