<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1">
<context>
    <name>Young Tremor</name>
    <message><source> </source><translation> </translation></message>
    <message><source> / {0} · {1} fps</source><translation> / {0} · {1} fps</translation></message>
    <message><source> Above half the frame rate ({0:g}): frames will see it slower.</source><translation> Über der halben Bildrate ({0:g}): Die Bilder zeigen es langsamer.</translation></message>
    <message><source> If the other is the scene, click its blue ticks.</source><translation> Ist das andere die Szene, auf dessen blaue Striche klicken.</translation></message>
    <message><source> and {0} more</source><translation> und {0} weitere</translation></message>
    <message><source> exists already</source><translation> gibt es schon</translation></message>
    <message><source> · {0} shielded</source><translation> · {0} abgedeckt</translation></message>
    <message><source>% of height</source><translation>% der Höhe</translation></message>
    <message><source>, differs among the chosen shots</source><translation>, bei den gewählten Einstellungen verschieden</translation></message>
    <message><source>0 calm, 1 out of breath</source><translation>0 ruhig, 1 außer Atem</translation></message>
    <message><source>0 fresh, 1 spent</source><translation>0 frisch, 1 erschöpft</translation></message>
    <message><source>0 from rest, 90 with a push</source><translation>0 aus der Ruhe, 90 mit einem Stoß</translation></message>
    <message><source>0 is a broad band, 1 a single even swing</source><translation>0 ist ein breites Band, 1 ein einziges gleichmäßiges Schwingen</translation></message>
    <message><source>0 one and the same on both sides, 1 each its own</source><translation>0 auf beiden Seiten dasselbe, 1 jede für sich</translation></message>
    <message><source>0 right, 90 down</source><translation>0 rechts, 90 unten</translation></message>
    <message><source>0 stays, 1 dies away evenly</source><translation>0 bleibt, 1 klingt gleichmäßig ab</translation></message>
    <message><source>0 steady, 1 trembling</source><translation>0 ruhig, 1 zitternd</translation></message>
    <message><source>1 file</source><translation>1 Datei</translation></message>
    <message><source>1 frame</source><translation>1 Bild</translation></message>
    <message><source>1 hit</source><translation>1 Schlag</translation></message>
    <message><source>1 key</source><translation>1 Keyframe</translation></message>
    <message><source>1 preset</source><translation>1 Vorlage</translation></message>
    <message><source>1 shot</source><translation>1 Einstellung</translation></message>
    <message><source>1 sound</source><translation>1 Ton</translation></message>
    <message><source>1 step</source><translation>1 Schritt</translation></message>
    <message><source>1 strand</source><translation>1 Strang</translation></message>
    <message><source>1 take</source><translation>1 Take</translation></message>
    <message><source>10 to 25 Hz, under a quarter of a second, mostly sideways, with rattle</source><translation>10 bis 25 Hz, unter einer Viertelsekunde, meist seitwärts, mit Klappern</translation></message>
    <message><source>30 px 2 Hz</source><translation>30 px 2 Hz</translation></message>
    <message><source>4:2:2 and 4:4:4 stay as they are; many players refuse such films</source><translation>4:2:2 und 4:4:4 bleiben erhalten; viele Abspieler lehnen solche Filme ab</translation></message>
    <message><source>A camera of 1.5 kg in two hands at 11 km/h: steps at 2.8 Hz, hard landings, two to three times a walk; side sway at half the rate</source><translation>Eine Kamera von 1,5 kg in zwei Händen bei 11 km/h: Schritte mit 2,8 Hz, harte Landungen, zwei- bis dreimal so stark wie im Gehen; Seitenschwanken mit halber Frequenz</translation></message>
    <message><source>A camera of 1.5 kg in two hands at 4.8 km/h: steps at 1.9 Hz in tilt and height with a heel strike, side sway and roll at half of it; no two alike</source><translation>Eine Kamera von 1,5 kg in zwei Händen bei 4,8 km/h: Schritte mit 1,9 Hz in Neigung und Höhe mit Fersenaufsatz, Seitenschwanken und Rollen mit der Hälfte; keine zwei gleich</translation></message>
    <message><source>A camera on a bonnet or a dashboard: 24 Hz, tiny, almost one frequency, roll and height together</source><translation>Eine Kamera auf Motorhaube oder Armaturenbrett: 24 Hz, winzig, fast eine einzige Frequenz, Rollen und Höhe zusammen</translation></message>
    <message><source>A camera on a stand: the legs ring at 4 Hz, most sideways and in roll, a third as much up and down, under a gusty envelope of seconds</source><translation>Eine Kamera auf einem Stativ: Die Beine schwingen mit 4 Hz, meist seitwärts und im Rollen, ein Drittel so stark auf und ab, unter sekundenlangen Böen</translation></message>
    <message><source>A camera that moves as the shot does, {0} m from what it films</source><translation>Eine Kamera, die sich wie die Einstellung bewegt, {0} m vor dem, was sie filmt</translation></message>
    <message><source>A clip is being measured. Wait for it, or cancel it.</source><translation>Ein Clip wird gerade gemessen. Warten oder abbrechen.</translation></message>
    <message><source>A coarse, broken band above it</source><translation>Ein grobes, gebrochenes Band darüber</translation></message>
    <message><source>A composite that holds together</source><translation>Ein Bild aus Ebenen, das hält</translation></message>
    <message><source>A crop of {0:g} % is enough as it is.</source><translation>Ein Beschnitt von {0:g} % genügt schon jetzt.</translation></message>
    <message><source>A dinghy at its mooring: roll and pitch between 0.3 and 0.8 Hz, never quite in step</source><translation>Ein Beiboot an der Boje: Rollen und Stampfen zwischen 0,3 und 0,8 Hz, nie ganz im Takt</translation></message>
    <message><source>A driver's cab on a track: body boom near 45 Hz, trim that rattles above 200 Hz</source><translation>Eine Fahrerkabine auf einem Feldweg: Karosseriedröhnen bei 45 Hz, Verkleidung, die über 200 Hz klappert</translation></message>
    <message><source>A face on a long lens, elbows in: breath leads, deeper than at rest, with a slow lean of the body; little tremor</source><translation>Ein Gesicht mit langer Brennweite, Ellbogen angelegt: Der Atem führt, tiefer als in Ruhe, mit langsamem Neigen des Körpers; wenig Zittern</translation></message>
    <message><source>A fast push that is stopped: the picture runs on a little the way it came, swings back at 4 Hz and trembles out; place the hit where the push ends</source><translation>Ein schneller Stoß, der gebremst wird: Das Bild läuft etwas weiter, schwingt mit 4 Hz zurück und zittert aus; der Schlag sitzt am Ende des Stoßes</translation></message>
    <message><source>A few letters: add drift, night, undo…</source><translation>Ein paar Buchstaben: drift, nacht, zurück…</translation></message>
    <message><source>A file instead…</source><translation>Stattdessen eine Datei…</translation></message>
    <message><source>A file on the glass…</source><translation>Eine Datei auf dem Glas…</translation></message>
    <message><source>A file…</source><translation>Eine Datei…</translation></message>
    <message><source>A fill</source><translation>Eine Farbfläche</translation></message>
    <message><source>A floor over running machines: 12 Hz with its double, steady, small, mostly vertical</source><translation>Ein Boden über laufenden Maschinen: 12 Hz mit der doppelten Frequenz, gleichmäßig, klein, meist senkrecht</translation></message>
    <message><source>A font file</source><translation>Eine Schriftdatei</translation></message>
    <message><source>A grey picture: white is near</source><translation>Ein Graubild: Weiß ist nah</translation></message>
    <message><source>A grey picture…</source><translation>Ein Graubild…</translation></message>
    <message><source>A heavy press comes down: one blow, mainly vertical, the stand and floor ring at 9 Hz and settle in a third of a second, a small floor tremor after</source><translation>Eine schwere Presse schlägt auf: ein Schlag, vor allem senkrecht, Stativ und Boden schwingen mit 9 Hz und beruhigen sich in einer Drittelsekunde, danach ein leichtes Bodenzittern</translation></message>
    <message><source>A held tone with overtones, as of an engine</source><translation>Ein gehaltener Ton mit Obertönen, wie von einem Motor</translation></message>
    <message><source>A keep-clear box is cut in {0}, first at {1}.</source><translation>Ein freizuhaltender Kasten wird in {0} angeschnitten, zuerst bei {1}.</translation></message>
    <message><source>A key in the middle of each gap of the edited curve</source><translation>Ein Keyframe in die Mitte jeder Lücke der bearbeiteten Kurve</translation></message>
    <message><source>A kilometre off: what is high has stayed on the way (ISO 9613-1: 1 kHz loses some 5 dB, 30 Hz nothing).</source><translation>Einen Kilometer entfernt: Was hoch ist, blieb auf dem Weg (ISO 9613-1: 1 kHz verliert etwa 5 dB, 30 Hz nichts).</translation></message>
    <message><source>A limiter that looks ahead; where it works, the row of all sound is red</source><translation>Ein vorausschauender Begrenzer; wo er eingreift, ist die Zeile aller Töne rot</translation></message>
    <message><source>A load let down on concrete: 45 Hz that sags, and the slap of it.</source><translation>Eine Last, auf Beton abgesetzt: 45 Hz, die absinken, und das Klatschen dazu.</translation></message>
    <message><source>A locked-off shot; dropping it on the window does the same</source><translation>Eine Aufnahme vom Stativ; auf das Fenster ziehen geht ebenso</translation></message>
    <message><source>A loose bar struck: partials of a free bar at 1 : 2.76 : 5.40 (Fletcher and Rossing, 1998).</source><translation>Eine lose Stange, angeschlagen: Teiltöne eines freien Stabs bei 1 : 2,76 : 5,40 (Fletcher und Rossing, 1998).</translation></message>
    <message><source>A measuring is</source><translation>Eine Messung</translation></message>
    <message><source>A motion, a number, a command, a preset, a time. Return does it, Esc closes.</source><translation>Eine Bewegung, eine Zahl, ein Befehl, eine Vorlage, eine Zeit. Eingabe führt aus, Esc schließt.</translation></message>
    <message><source>A new place ten times a second, held between: the hand of the animator</source><translation>Zehnmal in der Sekunde ein neuer Ort, dazwischen gehalten: die Hand beim Trickfilm</translation></message>
    <message><source>A panelled door: a board near 105 Hz, the latch above it</source><translation>Eine Füllungstür: ein Brett bei 105 Hz, darüber das Schloss</translation></message>
    <message><source>A phone in one hand at a brisk walk: the bounce arrives, steps run free</source><translation>Ein Telefon in einer Hand bei zügigem Gehen: Das Wippen kommt an, Schritte laufen frei</translation></message>
    <message><source>A picture, numbered pictures or a film: it shakes along</source><translation>Ein Bild, nummerierte Bilder oder ein Film: wackelt mit</translation></message>
    <message><source>A practised hand that follows what happens: calm sway, frequent corrections of framing, real stillness between</source><translation>Eine geübte Hand, die dem Geschehen folgt: ruhiges Schwanken, häufige Korrekturen des Ausschnitts, dazwischen wirkliche Stille</translation></message>
    <message><source>A press at night, three impacts</source><translation>Eine Druckmaschine bei Nacht, drei Aufschläge</translation></message>
    <message><source>A render is</source><translation>Ein Rendern</translation></message>
    <message><source>A rotor heard from below: blades pass 20 times a second with many orders</source><translation>Ein Rotor von unten gehört: Die Blätter kommen 20-mal in der Sekunde vorbei, mit vielen Ordnungen</translation></message>
    <message><source>A shake of its own</source><translation>Ein eigenes Wackeln</translation></message>
    <message><source>A shake that lies over several shots and runs on through the cuts</source><translation>Ein Wackeln, das über mehreren Einstellungen liegt und durch die Schnitte weiterläuft</translation></message>
    <message><source>A short knock at each beat, in times the reach</source><translation>Ein kurzes Klopfen bei jedem Takt, in Vielfachen des Ausschlags</translation></message>
    <message><source>A shot of its own</source><translation>Eine eigene Einstellung</translation></message>
    <message><source>A signal that slips: still for a second or two, then new places ten times a second, sideways most</source><translation>Ein Signal, das rutscht: ein bis zwei Sekunden still, dann zehnmal in der Sekunde neue Orte, meist seitwärts</translation></message>
    <message><source>A slack skin: partials of a membrane at 1 : 1.59 : 2.14 (Fletcher and Rossing, 1998).</source><translation>Ein schlaffes Fell: Teiltöne einer Membran bei 1 : 1,59 : 2,14 (Fletcher und Rossing, 1998).</translation></message>
    <message><source>A small camera in two hands: body sway as an inverted pendulum below 1 Hz, breath in height and tilt at a quarter of a hertz, tremor of 7–12 Hz</source><translation>Eine kleine Kamera in zwei Händen: Der Körper schwankt wie ein umgekehrtes Pendel unter 1 Hz, Atem in Höhe und Neigung mit einem Viertel Hertz, Zittern von 7–12 Hz</translation></message>
    <message><source>A small camera on the chest at 4.8 km/h: the body's own steps, stiff, without a hand's tremor; turns of the trunk at half the step rate lead</source><translation>Eine kleine Kamera auf der Brust bei 4,8 km/h: die Schritte des Körpers selbst, steif, ohne Zittern der Hand; Drehungen des Rumpfs mit halber Schrittfrequenz führen</translation></message>
    <message><source>A small camera, elbows on the table: a third to a half of standing sway; the arms rest, so tremor has the larger share</source><translation>Eine kleine Kamera, Ellbogen auf dem Tisch: ein Drittel bis die Hälfte des Schwankens im Stehen; die Arme ruhen, also hat das Zittern den größeren Anteil</translation></message>
    <message><source>A steel hull in a sea: girder and machinery tones at 10 to 60 Hz that ring on</source><translation>Ein Stahlrumpf in der See: Töne von Trägern und Maschinen bei 10 bis 60 Hz, die nachklingen</translation></message>
    <message><source>A title</source><translation>Ein Titel</translation></message>
    <message><source>A title has no motion of its own to measure.</source><translation>Ein Titel hat keine eigene Bewegung, die sich messen ließe.</translation></message>
    <message><source>A title, a fill, a picture or a film over the others</source><translation>Ein Titel, eine Farbfläche, ein Bild oder ein Film über den anderen</translation></message>
    <message><source>A tripod shot that feels dead</source><translation>Ein Stativbild, das leblos wirkt</translation></message>
    <message><source>A trot: two beats a second and their double, with a soft landing; the rider's body sways at half the beat</source><translation>Ein Trab: zwei Takte je Sekunde und ihre Verdopplung, mit weicher Landung; der Reiter schwankt mit dem halben Takt</translation></message>
    <message><source>A, B and C each by itself; name them with {variant}</source><translation>A, B und C jede für sich; mit {variant} im Namen</translation></message>
    <message><source>ACES2065-1</source><translation>ACES2065-1</translation></message>
    <message><source>ACEScct</source><translation>ACEScct</translation></message>
    <message><source>ACEScg</source><translation>ACEScg</translation></message>
    <message><source>ARRI LogC3 (EI800)</source><translation>ARRI LogC3 (EI800)</translation></message>
    <message><source>ARRI LogC4</source><translation>ARRI LogC4</translation></message>
    <message><source>AV1</source><translation>AV1</translation></message>
    <message><source>About Young Tremor</source><translation>Über Young Tremor</translation></message>
    <message><source>About what it turns (anchor point), percent of frame height below the centre</source><translation>Worum es dreht (Ankerpunkt), Prozent der Bildhöhe unter der Mitte</translation></message>
    <message><source>About what it turns (anchor point), percent of frame height right of the centre</source><translation>Worum es dreht (Ankerpunkt), Prozent der Bildhöhe rechts der Mitte</translation></message>
    <message><source>About – Young Tremor</source><translation>Über – Young Tremor</translation></message>
    <message><source>Achieved rate</source><translation>Erreichte Frequenz</translation></message>
    <message><source>Across</source><translation>Quer</translation></message>
    <message><source>Act in a stretch only</source><translation>Nur in einem Abschnitt wirken</translation></message>
    <message><source>Active stretch</source><translation>Wirksamer Abschnitt</translation></message>
    <message><source>Activity</source><translation>Tätigkeit</translation></message>
    <message><source>Acts around the region, not inside</source><translation>Wirkt um den Bereich herum, nicht darin</translation></message>
    <message><source>Acts from here on</source><translation>Wirkt ab hier</translation></message>
    <message><source>Acts until here; 0 is the end</source><translation>Wirkt bis hier; 0 ist das Ende</translation></message>
    <message><source>Add</source><translation>Hinzufügen</translation></message>
    <message><source>Add a drift, jolts that answer to the hits, or motion plotted by hand</source><translation>Drift, Stöße als Antwort auf die Schläge oder von Hand gesetzte Bewegung hinzufügen</translation></message>
    <message><source>Add a fill</source><translation>Farbfläche hinzufügen</translation></message>
    <message><source>Add a gyroscope log…</source><translation>Gyroskop-Protokoll hinzufügen…</translation></message>
    <message><source>Add a plotted motion</source><translation>Gesetzte Bewegung hinzufügen</translation></message>
    <message><source>Add a rumble</source><translation>Grollen hinzufügen</translation></message>
    <message><source>Add a sound</source><translation>Ton hinzufügen</translation></message>
    <message><source>Add a strand</source><translation>Strang hinzufügen</translation></message>
    <message><source>Add a title</source><translation>Titel hinzufügen</translation></message>
    <message><source>Add it to the shot's shake</source><translation>Zum Wackeln der Einstellung hinzufügen</translation></message>
    <message><source>Add its own shake</source><translation>Eigenes Wackeln hinzufügen</translation></message>
    <message><source>Add jolts</source><translation>Stöße hinzufügen</translation></message>
    <message><source>Add knocks</source><translation>Klopfen hinzufügen</translation></message>
    <message><source>Add plate +</source><translation>Ebene +</translation></message>
    <message><source>Add preset</source><translation>Vorlage hinzufügen</translation></message>
    <message><source>Add shape</source><translation>Form hinzufügen</translation></message>
    <message><source>Add sound sway</source><translation>Tonschwanken hinzufügen</translation></message>
    <message><source>Add sound to it</source><translation>Ton dazu hinzufügen</translation></message>
    <message><source>Add sound to the shake</source><translation>Ton zum Wackeln hinzufügen</translation></message>
    <message><source>Add sound to the span</source><translation>Ton zur Spanne hinzufügen</translation></message>
    <message><source>Add sound to this shake</source><translation>Ton zu diesem Wackeln hinzufügen</translation></message>
    <message><source>Add span</source><translation>Spanne hinzufügen</translation></message>
    <message><source>Add span +</source><translation>Spanne +</translation></message>
    <message><source>Add strand</source><translation>Strang hinzufügen</translation></message>
    <message><source>Add strand +</source><translation>Strang +</translation></message>
    <message><source>Add to the list</source><translation>In die Liste</translation></message>
    <message><source>Add {0}</source><translation>{0} hinzufügen</translation></message>
    <message><source>Add {0} key</source><translation>Keyframe für {0} setzen</translation></message>
    <message><source>Added to the delay of its jolts</source><translation>Kommt zur Verzögerung der Stöße hinzu</translation></message>
    <message><source>Added to the shake</source><translation>Zum Wackeln dazu</translation></message>
    <message><source>Adobe RGB (1998)</source><translation>Adobe RGB (1998)</translation></message>
    <message><source>After a run</source><translation>Nach einem Lauf</translation></message>
    <message><source>After somebody at 10 km/h, three kilograms at the chest: strides at 2.75 Hz, hard landings, and a sway that hunts for the subject</source><translation>Hinter jemandem her mit 10 km/h, drei Kilogramm vor der Brust: Schritte mit 2,75 Hz, harte Landungen und ein Schwanken, das das Motiv sucht</translation></message>
    <message><source>After the hit</source><translation>Nach dem Schlag</translation></message>
    <message><source>After the take</source><translation>Nach dem Take</translation></message>
    <message><source>Afterimages</source><translation>Nachbilder</translation></message>
    <message><source>Again</source><translation>Noch einmal</translation></message>
    <message><source>Alignment</source><translation>Ausrichtung</translation></message>
    <message><source>All</source><translation>Alle</translation></message>
    <message><source>All shots one after the other (R)</source><translation>Alle Einstellungen nacheinander (R)</translation></message>
    <message><source>All sound but the footage's own, on or off</source><translation>Alle Töne außer dem des Materials, an oder aus</translation></message>
    <message><source>All sound, not only the footage's</source><translation>Alle Töne, nicht nur der des Materials</translation></message>
    <message><source>All that was added</source><translation>Alles, was hinzugefügt wurde</translation></message>
    <message><source>Alpha</source><translation>Alpha</translation></message>
    <message><source>Always as loud</source><translation>Immer gleich laut</translation></message>
    <message><source>Amount</source><translation>Stärke</translation></message>
    <message><source>Amplitude: 95 % of the time the motion stays below it</source><translation>Amplitude: 95 % der Zeit bleibt die Bewegung darunter</translation></message>
    <message><source>An engine at idle: firing near 28 Hz with its orders, after Taylor, The Internal-Combustion Engine, 1985; the mounts pass little above 200 Hz.</source><translation>Ein Motor im Leerlauf: Zündung bei 28 Hz mit ihren Ordnungen, nach Taylor, The Internal-Combustion Engine, 1985; die Lager lassen über 200 Hz wenig durch.</translation></message>
    <message><source>An iron platen onto its bed: a body near 68 Hz under a hard edge, gone in half a second.</source><translation>Eine Eisenplatte auf ihr Bett: ein Körper bei 68 Hz unter einer harten Kante, in einer halben Sekunde vorbei.</translation></message>
    <message><source>Angle</source><translation>Winkel</translation></message>
    <message><source>Another course</source><translation>Ein anderer Verlauf</translation></message>
    <message><source>Another course for each</source><translation>Für jede ein anderer Verlauf</translation></message>
    <message><source>Another direction for each hit</source><translation>Eine andere Richtung für jeden Schlag</translation></message>
    <message><source>Another preset in its place</source><translation>Eine andere Vorlage an seiner Stelle</translation></message>
    <message><source>Another random seed: the same kind of motion</source><translation>Ein anderer Zufallswert: Bewegung derselben Art</translation></message>
    <message><source>Another shape that stands at a distance of its own</source><translation>Eine andere Form mit eigenem Abstand</translation></message>
    <message><source>Another sound</source><translation>Ein anderer Ton</translation></message>
    <message><source>Another…</source><translation>Eine andere…</translation></message>
    <message><source>Answers</source><translation>Antwortet</translation></message>
    <message><source>Apart</source><translation>Auseinander</translation></message>
    <message><source>Apple Log</source><translation>Apple Log</translation></message>
    <message><source>As before</source><translation>Wie zuvor</translation></message>
    <message><source>As filmed</source><translation>Wie gefilmt</translation></message>
    <message><source>As if somebody held it</source><translation>Als hielte sie jemand</translation></message>
    <message><source>As it comes</source><translation>Wie es kommt</translation></message>
    <message><source>As it comes.</source><translation>Wie es kommt.</translation></message>
    <message><source>As it was opened</source><translation>Wie es geöffnet wurde</translation></message>
    <message><source>As large as fits</source><translation>So groß, wie es passt</translation></message>
    <message><source>As sound comes, 343 m a second</source><translation>Wie Schall kommt, 343 m in der Sekunde</translation></message>
    <message><source>As the desktop</source><translation>Wie der Schreibtisch</translation></message>
    <message><source>As the file tells</source><translation>Wie die Datei sagt</translation></message>
    <message><source>As the first shot</source><translation>Wie die erste Einstellung</translation></message>
    <message><source>As the first shot ({0})</source><translation>Wie die erste Einstellung ({0})</translation></message>
    <message><source>As the hand moved that filmed it</source><translation>Wie sich die Hand bewegte, die gefilmt hat</translation></message>
    <message><source>As the jolts</source><translation>Wie die Stöße</translation></message>
    <message><source>Ask</source><translation>Fragen</translation></message>
    <message><source>Ask (Ctrl+K)</source><translation>Fragen…</translation></message>
    <message><source>Ask for a motion in figures, a number, a command, a preset or a time: {0}.</source><translation>Nach einer Bewegung in Zahlen, einer Zahl, einem Befehl, einer Vorlage oder einer Zeit fragen: {0}.</translation></message>
    <message><source>Ask in your own words or in figures (Ctrl+K)</source><translation>In eigenen Worten oder in Zahlen fragen (Strg+K)</translation></message>
    <message><source>Ask in your own words or in figures: 30 px 2 Hz, motion blur, hide the edges (Ctrl+K)</source><translation>In eigenen Worten oder in Zahlen fragen: 30 px 2 Hz, Bewegungsunschärfe, Ränder verbergen (Strg+K)</translation></message>
    <message><source>Ask…</source><translation>Fragen…</translation></message>
    <message><source>Assign this shortcut. Leave empty to remove it.</source><translation>Dieses Tastenkürzel zuweisen. Leer lassen, um es zu entfernen.</translation></message>
    <message><source>At</source><translation>Bei</translation></message>
    <message><source>At full size</source><translation>In voller Größe</translation></message>
    <message><source>At half size</source><translation>In halber Größe</translation></message>
    <message><source>At the playhead</source><translation>Am Abspielkopf</translation></message>
    <message><source>Attack</source><translation>Anstieg</translation></message>
    <message><source>Average spacing: from half of it to one and a half</source><translation>Mittlerer Abstand: von der Hälfte bis zum Anderthalbfachen</translation></message>
    <message><source>Average the exposures in linear light, not as code values: bright things smear brighter; usually left off in PQ and HLG</source><translation>Die Belichtungen als lineares Licht mitteln, nicht als Codewerte: Helles verwischt heller; bei PQ und HLG meist aus</translation></message>
    <message><source>BMDFilm WideGamut Gen5</source><translation>BMDFilm WideGamut Gen5</translation></message>
    <message><source>Back to the picture (Esc); measuring continues</source><translation>Zurück zum Bild (Esc); das Messen geht weiter</translation></message>
    <message><source>Back up work after</source><translation>Arbeit sichern nach</translation></message>
    <message><source>Balance</source><translation>Gewichtung</translation></message>
    <message><source>Begin</source><translation>Anfang</translation></message>
    <message><source>Beginner, nervous</source><translation>Anfänger, nervös</translation></message>
    <message><source>Begins</source><translation>Beginnt</translation></message>
    <message><source>Begins again at its end (loop)</source><translation>Beginnt am Ende von vorn (Schleife)</translation></message>
    <message><source>Behind everything</source><translation>Hinter allem</translation></message>
    <message><source>Below the middle, percent of frame height</source><translation>Unter der Mitte, Prozent der Bildhöhe</translation></message>
    <message><source>Bends</source><translation>Kurven</translation></message>
    <message><source>Between the two</source><translation>Zwischen beiden</translation></message>
    <message><source>Black is near</source><translation>Schwarz ist nah</translation></message>
    <message><source>Blend</source><translation>Mischung</translation></message>
    <message><source>Blur as light</source><translation>Als Licht verwischen</translation></message>
    <message><source>Blur of the shadow, percent of the size</source><translation>Weichheit des Schattens, Prozent der Größe</translation></message>
    <message><source>Body</source><translation>Körper</translation></message>
    <message><source>Body on its springs: bounce 1.3 Hz and pitch 1.6 Hz that swell and die, wheel hop near 12 Hz, very small</source><translation>Karosserie auf ihren Federn: Hüpfen mit 1,3 Hz und Nicken mit 1,6 Hz, die anschwellen und vergehen, Radspringen bei 12 Hz, sehr klein</translation></message>
    <message><source>Body-mounted</source><translation>Am Körper</translation></message>
    <message><source>Both</source><translation>Beide</translation></message>
    <message><source>Both pictures whole, side by side (4)</source><translation>Beide Bilder ganz, nebeneinander (4)</translation></message>
    <message><source>Braced against something</source><translation>An etwas angelehnt</translation></message>
    <message><source>Breath</source><translation>Atem</translation></message>
    <message><source>Breathes in</source><translation>Atmet ein</translation></message>
    <message><source>Breathing close-up</source><translation>Nahaufnahme, atmend</translation></message>
    <message><source>Brightness</source><translation>Helligkeit</translation></message>
    <message><source>Broad, with gusts and nothing hard in it</source><translation>Breit, mit Böen und nichts Hartem darin</translation></message>
    <message><source>Bumps a minute that meet all axes at once</source><translation>Rucke je Minute, die alle Achsen zugleich treffen</translation></message>
    <message><source>By hand</source><translation>Von Hand</translation></message>
    <message><source>By how much each part's own shake differs from the others'</source><translation>Wie sehr sich das eigene Wackeln der Teile unterscheidet</translation></message>
    <message><source>By how much it trembles</source><translation>Wie sehr sie zittert</translation></message>
    <message><source>By how much it trembles with the speed</source><translation>Wie sehr sie mit dem Tempo zittert</translation></message>
    <message><source>By which left differs from right</source><translation>Wie sehr sich links von rechts unterscheidet</translation></message>
    <message><source>By which steps differ in time</source><translation>Wie sehr sich Schritte in der Zeit unterscheiden</translation></message>
    <message><source>By which version it is worked out</source><translation>Nach welcher Fassung es berechnet wird</translation></message>
    <message><source>By which version it is worked out: older projects keep theirs</source><translation>Nach welcher Fassung es berechnet wird: Ältere Projekte behalten die ihre</translation></message>
    <message><source>Cabin rattle</source><translation>Kabinenklappern</translation></message>
    <message><source>Camera</source><translation>Kamera</translation></message>
    <message><source>Camera in USD</source><translation>Kamera in USD</translation></message>
    <message><source>Camera, everything added up</source><translation>Kamera, alles zusammen</translation></message>
    <message><source>Cancel</source><translation>Abbrechen</translation></message>
    <message><source>Cancelled. Nothing was changed.</source><translation>Abgebrochen. Nichts wurde geändert.</translation></message>
    <message><source>Cancelled; {0}.</source><translation>Abgebrochen; {0}.</translation></message>
    <message><source>CanonLog2 CinemaGamut D55</source><translation>CanonLog2 CinemaGamut D55</translation></message>
    <message><source>CanonLog3 CinemaGamut D55</source><translation>CanonLog3 CinemaGamut D55</translation></message>
    <message><source>Car, good road</source><translation>Auto, gute Straße</translation></message>
    <message><source>Carriage</source><translation>Wagen</translation></message>
    <message><source>Carry on like it</source><translation>Ebenso weitermachen</translation></message>
    <message><source>Central tremor</source><translation>Zentrales Zittern</translation></message>
    <message><source>Centre</source><translation>Mitte</translation></message>
    <message><source>Changed by hand: it does not follow these any more.</source><translation>Von Hand geändert: folgt diesen nicht mehr.</translation></message>
    <message><source>Changes per second</source><translation>Änderungen je Sekunde</translation></message>
    <message><source>Channel</source><translation>Kanal</translation></message>
    <message><source>Character</source><translation>Charakter</translation></message>
    <message><source>Chart</source><translation>Diagramm</translation></message>
    <message><source>Choose</source><translation>Wählen</translation></message>
    <message><source>Choose a handheld clip to measure</source><translation>Einen Clip aus der Hand zum Messen wählen</translation></message>
    <message><source>Choose a preset for this shot (P)</source><translation>Eine Vorlage für diese Einstellung wählen (P)</translation></message>
    <message><source>Choose all</source><translation>Alle wählen</translation></message>
    <message><source>Choose…</source><translation>Wählen…</translation></message>
    <message><source>Chop</source><translation>Kabbelwellen</translation></message>
    <message><source>Chosen shots, each</source><translation>Gewählte Einstellungen, jede</translation></message>
    <message><source>Chosen strand</source><translation>Gewählter Strang</translation></message>
    <message><source>Clank</source><translation>Scheppern</translation></message>
    <message><source>Claw</source><translation>Greifer</translation></message>
    <message><source>Clean</source><translation>Ruhig</translation></message>
    <message><source>Clear {0} keys</source><translation>Keyframes für {0} entfernen</translation></message>
    <message><source>Click</source><translation>Klicken</translation></message>
    <message><source>Click an ink to hide or show it</source><translation>Auf eine Farbe klicken, um sie aus- oder einzublenden</translation></message>
    <message><source>Click for all controls of this sound</source><translation>Klicken für alle Regler dieses Tons</translation></message>
    <message><source>Click for all controls of this strand</source><translation>Klicken für alle Regler dieses Strangs</translation></message>
    <message><source>Click for its controls, drag to reorder. Arrows move it on the picture, Delete removes it.</source><translation>Klicken für die Regler, ziehen zum Umordnen. Pfeile bewegen sie auf dem Bild, Entf entfernt sie.</translation></message>
    <message><source>Click to make the row tall enough to draw in, and low again</source><translation>Klicken, um die Zeile hoch genug zum Zeichnen zu machen und wieder niedrig</translation></message>
    <message><source>Clip</source><translation>Clip</translation></message>
    <message><source>Clip to measure</source><translation>Zu messender Clip</translation></message>
    <message><source>Clip to measure “{0}” from</source><translation>Clip, an dem „{0}“ gemessen wird</translation></message>
    <message><source>Clockwise (rotation)</source><translation>Im Uhrzeigersinn (Drehung)</translation></message>
    <message><source>Close</source><translation>Schließen</translation></message>
    <message><source>Close the figures (G)</source><translation>Die Zahlen schließen (G)</translation></message>
    <message><source>Close the sheet (Esc); deliveries continue</source><translation>Das Blatt schließen (Esc); Auslieferungen laufen weiter</translation></message>
    <message><source>Close what lies over it</source><translation>Schließen, was darüber liegt</translation></message>
    <message><source>Cluster</source><translation>Cluster</translation></message>
    <message><source>Cluster for deliveries</source><translation>Cluster für Auslieferungen</translation></message>
    <message><source>Cold</source><translation>Kalt</translation></message>
    <message><source>Colour</source><translation>Farbe</translation></message>
    <message><source>Colour behind</source><translation>Farbe dahinter</translation></message>
    <message><source>Colour configuration</source><translation>Farbkonfiguration</translation></message>
    <message><source>Colour, written like #f2c14e</source><translation>Farbe, geschrieben wie #f2c14e</translation></message>
    <message><source>Colours</source><translation>Farben</translation></message>
    <message><source>Come to rest</source><translation>Zur Ruhe kommen</translation></message>
    <message><source>Coming from a measured clip</source><translation>Von einem gemessenen Clip kommend</translation></message>
    <message><source>Coming from key framing</source><translation>Von Keyframes kommend</translation></message>
    <message><source>Coming from noise formulas</source><translation>Von Rauschformeln kommend</translation></message>
    <message><source>Commands</source><translation>Befehle</translation></message>
    <message><source>Compare</source><translation>Vergleichen</translation></message>
    <message><source>Compare with the still original</source><translation>Mit dem ruhigen Original vergleichen</translation></message>
    <message><source>Compare with {0}</source><translation>Mit {0} vergleichen</translation></message>
    <message><source>Control</source><translation>Regelung</translation></message>
    <message><source>Copies</source><translation>Kopien</translation></message>
    <message><source>Copy its delivered file</source><translation>Ausgelieferte Datei kopieren</translation></message>
    <message><source>Copy shake</source><translation>Wackeln kopieren</translation></message>
    <message><source>Copy the shake of a shot first, with Ctrl+C.</source><translation>Zuerst mit Strg+C das Wackeln einer Einstellung kopieren.</translation></message>
    <message><source>Corrections</source><translation>Korrekturen</translation></message>
    <message><source>Corrections a minute</source><translation>Korrekturen je Minute</translation></message>
    <message><source>Course of the clip</source><translation>Verlauf des Clips</translation></message>
    <message><source>Crop</source><translation>Beschnitt</translation></message>
    <message><source>Crop at most</source><translation>Beschnitt höchstens</translation></message>
    <message><source>Crop by hand</source><translation>Beschnitt von Hand</translation></message>
    <message><source>Crop in as needed</source><translation>Beschnitt nach Bedarf</translation></message>
    <message><source>Crop in, steady</source><translation>Beschnitt, gleichbleibend</translation></message>
    <message><source>Crossfade</source><translation>Überblendung</translation></message>
    <message><source>Ctrl+K: say what you want, like 30 px 2 Hz, motion blur 90 or swell here.</source><translation>Strg+K: sagen, was gewünscht ist, etwa 30 px 2 Hz, Bewegungsunschärfe 90 oder Anschwellen hier.</translation></message>
    <message><source>Cut out and pasted anew four times a second: each letter turned, hardly shifted</source><translation>Viermal in der Sekunde ausgeschnitten und neu geklebt: jeder Buchstabe gedreht, kaum verschoben</translation></message>
    <message><source>D-Log D-Gamut</source><translation>D-Log D-Gamut</translation></message>
    <message><source>DNxHR HQX</source><translation>DNxHR HQX</translation></message>
    <message><source>Dask scheduler whose workers share deliveries; local: all cores of this machine</source><translation>Dask-Scheduler, dessen Rechner Auslieferungen teilen; local: alle Kerne dieses Rechners</translation></message>
    <message><source>Decay</source><translation>Abklingen</translation></message>
    <message><source>Deck</source><translation>Deck</translation></message>
    <message><source>Deck of a boat</source><translation>Deck eines Boots</translation></message>
    <message><source>Degrees a second</source><translation>Grad je Sekunde</translation></message>
    <message><source>Delay</source><translation>Verzögerung</translation></message>
    <message><source>Delete</source><translation>Löschen</translation></message>
    <message><source>Delete all hits</source><translation>Alle Schläge löschen</translation></message>
    <message><source>Delete hit</source><translation>Schlag löschen</translation></message>
    <message><source>Delete hits</source><translation>Schläge löschen</translation></message>
    <message><source>Delete keys</source><translation>Keyframes löschen</translation></message>
    <message><source>Delete plate</source><translation>Ebene löschen</translation></message>
    <message><source>Delete shot</source><translation>Einstellung löschen</translation></message>
    <message><source>Delete shots</source><translation>Einstellungen löschen</translation></message>
    <message><source>Delete sound</source><translation>Ton löschen</translation></message>
    <message><source>Delete span</source><translation>Spanne löschen</translation></message>
    <message><source>Delete strand</source><translation>Strang löschen</translation></message>
    <message><source>Delete take</source><translation>Take löschen</translation></message>
    <message><source>Delete this preset</source><translation>Diese Vorlage löschen</translation></message>
    <message><source>Delete variant {0}</source><translation>Variante {0} löschen</translation></message>
    <message><source>Delete {0}</source><translation>{0} löschen</translation></message>
    <message><source>Delete {0} keys</source><translation>Keyframes für {0} löschen</translation></message>
    <message><source>Delivered</source><translation>Ausgeliefert</translation></message>
    <message><source>Delivered as</source><translation>Ausliefern als</translation></message>
    <message><source>Delivered rate</source><translation>Ausgelieferte Rate</translation></message>
    <message><source>Delivered size</source><translation>Ausgelieferte Größe</translation></message>
    <message><source>Delivered, and back into the cut</source><translation>Ausgeliefert, und zurück im Schnitt</translation></message>
    <message><source>Delivered: {0}</source><translation>Ausgeliefert: {0}</translation></message>
    <message><source>Depth</source><translation>Tiefe</translation></message>
    <message><source>Depth picture</source><translation>Tiefenbild</translation></message>
    <message><source>Detail kept</source><translation>Erhaltene Details</translation></message>
    <message><source>Differ</source><translation>Unterschied</translation></message>
    <message><source>Difference</source><translation>Differenz</translation></message>
    <message><source>Direction</source><translation>Richtung</translation></message>
    <message><source>Direction towards the camera: 90 is down</source><translation>Richtung zur Kamera: 90 ist unten</translation></message>
    <message><source>Discard</source><translation>Verwerfen</translation></message>
    <message><source>Discard the found hits</source><translation>Die gefundenen Schläge verwerfen</translation></message>
    <message><source>Display P3</source><translation>Display P3</translation></message>
    <message><source>Display and view for light and cameras’ colours, never delivered</source><translation>Anzeige und Ansicht für Licht und Kamerafarben, nie ausgeliefert</translation></message>
    <message><source>Distance</source><translation>Abstand</translation></message>
    <message><source>Distance of black</source><translation>Abstand von Schwarz</translation></message>
    <message><source>Distance of each point: what is near moves more. White is near</source><translation>Abstand jedes Punkts: Nahes bewegt sich mehr. Weiß ist nah</translation></message>
    <message><source>Distance of white; travel is divided by it</source><translation>Abstand von Weiß; der Weg wird dadurch geteilt</translation></message>
    <message><source>Do not show this hint again</source><translation>Diesen Hinweis nicht mehr zeigen</translation></message>
    <message><source>Documentary</source><translation>Dokumentation</translation></message>
    <message><source>Documentary run</source><translation>Dokumentation, rennend</translation></message>
    <message><source>Doing</source><translation>Tut</translation></message>
    <message><source>Door slam</source><translation>Türknall</translation></message>
    <message><source>Down</source><translation>Abwärts</translation></message>
    <message><source>Draft, to keep up</source><translation>Entwurf, um mitzukommen</translation></message>
    <message><source>Drag a box on the picture over what must stay in the frame.</source><translation>Auf dem Bild einen Kasten um das ziehen, was im Bild bleiben muss.</translation></message>
    <message><source>Drag a box over what moves by itself: people, cars. Click a box to remove it. If two things move, click the scene.</source><translation>Einen Kasten um das ziehen, was sich selbst bewegt: Menschen, Autos. Ein Klick entfernt ihn. Bewegen sich zwei Dinge, auf die Szene klicken.</translation></message>
    <message><source>Drag a pin sideways for time, up and down for strength. Delete removes it.</source><translation>Einen Stift seitwärts ziehen für die Zeit, auf und ab für die Wucht. Entf entfernt ihn.</translation></message>
    <message><source>Drag it there; while a strand is chosen, it is that strand's own</source><translation>Dorthin ziehen; solange ein Strang gewählt ist, ist es dessen eigener</translation></message>
    <message><source>Drag its box on the picture.</source><translation>Seinen Kasten auf dem Bild ziehen.</translation></message>
    <message><source>Drag moves the picture, Ctrl+0 shows all of it again.</source><translation>Ziehen verschiebt das Bild, Strg+0 zeigt es wieder ganz.</translation></message>
    <message><source>Drag or type; the wheel turns it once it is clicked, or with Alt.
Shift is fine, Ctrl coarse. Double click resets.</source><translation>Ziehen oder tippen; das Rad dreht nach einem Klick oder mit Alt.
Umschalt ist fein, Strg grob. Doppelklick setzt zurück.</translation></message>
    <message><source>Drag the ends to choose the stretch; click to look at a frame</source><translation>Die Enden ziehen, um den Abschnitt zu wählen; klicken, um ein Bild anzusehen</translation></message>
    <message><source>Drag the line: what reaches it becomes a hit.</source><translation>Die Linie ziehen: Was sie erreicht, wird ein Schlag.</translation></message>
    <message><source>Drag the picture: each drag sets a key at the playhead, with Ctrl it moves the key under it.</source><translation>Das Bild ziehen: Jedes Ziehen setzt einen Keyframe am Abspielkopf, mit Strg bewegt es den darunter.</translation></message>
    <message><source>Drag the region on the picture</source><translation>Den Bereich auf dem Bild ziehen</translation></message>
    <message><source>Drag the threshold on the chart, then keep what was found.</source><translation>Die Schwelle im Diagramm ziehen, dann das Gefundene behalten.</translation></message>
    <message><source>Drag to scrub. Wheel zooms, Shift and wheel pans.
I and O mark a stretch to loop, X clears it.
H drops a hit; drag its pin along, or up and down for its strength.
With the keyboard: Page up and down choose a pin, arrows move it, Delete takes it away.</source><translation>Ziehen zum Suchen. Das Rad zoomt, Umschalt und Rad verschieben.
I und O markieren einen Abschnitt als Schleife, X hebt ihn auf.
H setzt einen Schlag; seinen Stift seitwärts ziehen, auf und ab für die Wucht.
Mit der Tastatur: Bild auf und ab wählen einen Stift, Pfeile bewegen ihn, Entf entfernt ihn.</translation></message>
    <message><source>Draw</source><translation>Zeichnen</translation></message>
    <message><source>Draw a box on the picture that must never leave the frame: a face, a title</source><translation>Einen Kasten auf das Bild zeichnen, der nie angeschnitten werden darf: ein Gesicht, ein Titel</translation></message>
    <message><source>Draw out span</source><translation>Spanne aufziehen</translation></message>
    <message><source>Draw over it</source><translation>Darüberzeichnen</translation></message>
    <message><source>Draw round it on the picture.</source><translation>Auf dem Bild darum herum zeichnen.</translation></message>
    <message><source>Drawn shape</source><translation>Gezeichnete Form</translation></message>
    <message><source>Drift</source><translation>Drift</translation></message>
    <message><source>Drone in wind</source><translation>Drohne im Wind</translation></message>
    <message><source>Drop a locked-off shot here, or press Ctrl+O.
It starts with a little handheld drift.</source><translation>Eine Aufnahme vom Stativ hierher ziehen oder Strg+O drücken.
Sie beginnt mit etwas Drift aus der Hand.</translation></message>
    <message><source>Drop footage here, or press Ctrl+O.</source><translation>Material hierher ziehen oder Strg+O drücken.</translation></message>
    <message><source>Drum</source><translation>Trommel</translation></message>
    <message><source>Dull thud</source><translation>Dumpfer Schlag</translation></message>
    <message><source>Duplicate</source><translation>Duplizieren</translation></message>
    <message><source>Duplicate shot</source><translation>Einstellung duplizieren</translation></message>
    <message><source>Duplicate strand</source><translation>Strang duplizieren</translation></message>
    <message><source>EXR pictures, half float</source><translation>EXR-Bilder, halbe Genauigkeit</translation></message>
    <message><source>Each hit throws the letters up their own ways; they ring at 5 Hz and settle in a third of a second</source><translation>Jeder Schlag wirft die Buchstaben auf eigenen Wegen hoch; sie schwingen mit 5 Hz und beruhigen sich in einer Drittelsekunde</translation></message>
    <message><source>Each letter goes its own way</source><translation>Jeder Buchstabe geht seinen Weg</translation></message>
    <message><source>Each line goes its own way</source><translation>Jede Zeile geht ihren Weg</translation></message>
    <message><source>Each shot by itself</source><translation>Jede Einstellung für sich</translation></message>
    <message><source>Each sound by itself beside the film</source><translation>Jeder Ton für sich neben dem Film</translation></message>
    <message><source>Each step begins where the last one ended, as a person's do; otherwise they keep an even beat</source><translation>Jeder Schritt beginnt, wo der letzte endete, wie bei einem Menschen; sonst bleibt der Takt gleichmäßig</translation></message>
    <message><source>Each to its own file…</source><translation>Jede in ihre Datei…</translation></message>
    <message><source>Each variant</source><translation>Jede Variante</translation></message>
    <message><source>Each word goes its own way</source><translation>Jedes Wort geht seinen Weg</translation></message>
    <message><source>Earlier versions</source><translation>Frühere Fassungen</translation></message>
    <message><source>Ease in</source><translation>Sanft beginnen</translation></message>
    <message><source>Edges</source><translation>Ränder</translation></message>
    <message><source>Edges and crop</source><translation>Ränder und Beschnitt</translation></message>
    <message><source>Edges, shutter, lens</source><translation>Ränder, Verschluss, Objektiv</translation></message>
    <message><source>Edit</source><translation>Bearbeiten</translation></message>
    <message><source>Edit roll on the row; the others are locked</source><translation>Rollen auf der Zeile bearbeiten; die anderen sind gesperrt</translation></message>
    <message><source>Edit x on the row; the others are locked</source><translation>X auf der Zeile bearbeiten; die anderen sind gesperrt</translation></message>
    <message><source>Edit y on the row; the others are locked</source><translation>Y auf der Zeile bearbeiten; die anderen sind gesperrt</translation></message>
    <message><source>Edit zoom on the row; the others are locked</source><translation>Zoom auf der Zeile bearbeiten; die anderen sind gesperrt</translation></message>
    <message><source>Edit {0}</source><translation>{0} bearbeiten</translation></message>
    <message><source>Edited curve</source><translation>Bearbeitete Kurve</translation></message>
    <message><source>Eight kilograms on the shoulder at a walk: the weight filters what is above 2 Hz, the bounce stays</source><translation>Acht Kilogramm auf der Schulter im Gehen: Das Gewicht filtert, was über 2 Hz liegt, das Wippen bleibt</translation></message>
    <message><source>Eight kilograms on the shoulder: heavy and smooth, the mass cuts what lies above 4 Hz and holds the roll to a third</source><translation>Acht Kilogramm auf der Schulter: schwer und glatt, die Masse schneidet ab, was über 4 Hz liegt, und hält das Rollen auf einem Drittel</translation></message>
    <message><source>Elbows in</source><translation>Ellbogen angelegt</translation></message>
    <message><source>Ellipse</source><translation>Ellipse</translation></message>
    <message><source>Encoder: {0}</source><translation>Encoder: {0}</translation></message>
    <message><source>End</source><translation>Ende</translation></message>
    <message><source>End of a push</source><translation>Ende eines Stoßes</translation></message>
    <message><source>Endless: a drift learned from it</source><translation>Endlos: eine daraus gelernte Drift</translation></message>
    <message><source>Ends</source><translation>Endet</translation></message>
    <message><source>Engine</source><translation>Motor</translation></message>
    <message><source>Engine idling</source><translation>Motor im Leerlauf</translation></message>
    <message><source>English</source><translation>English</translation></message>
    <message><source>Enlarges the picture (scale) by so much; what the edges need comes on top</source><translation>Vergrößert das Bild (Skalierung) um so viel; was die Ränder brauchen, kommt hinzu</translation></message>
    <message><source>Errors are logged in {0}.</source><translation>Fehler werden in {0} festgehalten.</translation></message>
    <message><source>Esc cancels the tool.</source><translation>Esc bricht das Werkzeug ab.</translation></message>
    <message><source>Esc goes back to the frame. A right click on the row shapes its amount over time.</source><translation>Esc führt zum Bild zurück. Ein Rechtsklick auf die Zeile formt die Stärke über die Zeit.</translation></message>
    <message><source>Every</source><translation>Alle</translation></message>
    <message><source>Everywhere</source><translation>Überall</translation></message>
    <message><source>Exaggerate its own shake</source><translation>Das eigene Wackeln übertreiben</translation></message>
    <message><source>Export</source><translation>Exportieren</translation></message>
    <message><source>Export CSV</source><translation>CSV exportieren</translation></message>
    <message><source>Export a take</source><translation>Take exportieren</translation></message>
    <message><source>Export preset</source><translation>Vorlage exportieren</translation></message>
    <message><source>Export presets</source><translation>Vorlagen exportieren</translation></message>
    <message><source>Export presets to a folder</source><translation>Vorlagen in einen Ordner exportieren</translation></message>
    <message><source>Export…</source><translation>Exportieren…</translation></message>
    <message><source>Exposure</source><translation>Belichtung</translation></message>
    <message><source>Exposure for looking</source><translation>Belichtung zum Ansehen</translation></message>
    <message><source>Exposure for looking, in stops: never delivered. The wheel turns it</source><translation>Belichtung zum Ansehen, in Blenden: nie ausgeliefert. Das Rad dreht sie</translation></message>
    <message><source>Extra frames at each end, as far as the footage goes</source><translation>Zusätzliche Bilder an jedem Ende, soweit das Material reicht</translation></message>
    <message><source>FFV1, lossless</source><translation>FFV1, verlustfrei</translation></message>
    <message><source>FOOTAGE SOUND</source><translation>TON DES MATERIALS</translation></message>
    <message><source>Face</source><translation>Schrift</translation></message>
    <message><source>Fade in</source><translation>Einblenden</translation></message>
    <message><source>Fade out</source><translation>Ausblenden</translation></message>
    <message><source>Fading copies of the picture (echo) where the motion was a moment ago; 0 is none</source><translation>Verblassende Kopien des Bilds (Echo) dort, wo die Bewegung eben war; 0 ist keine</translation></message>
    <message><source>Fall</source><translation>Fallen</translation></message>
    <message><source>Fall from here to the end</source><translation>Ab hier bis zum Ende fallen</translation></message>
    <message><source>Fall-off</source><translation>Abfall</translation></message>
    <message><source>Falls</source><translation>Fällt</translation></message>
    <message><source>Far blast</source><translation>Ferne Explosion</translation></message>
    <message><source>Far quake</source><translation>Fernes Beben</translation></message>
    <message><source>Far thunder</source><translation>Ferner Donner</translation></message>
    <message><source>Farthest</source><translation>Am weitesten</translation></message>
    <message><source>Fast turns and lost frames from the log, the rest from the picture</source><translation>Schnelle Drehungen und verlorene Bilder aus dem Protokoll, den Rest aus dem Bild</translation></message>
    <message><source>Fault</source><translation>Störung</translation></message>
    <message><source>Favourite</source><translation>Favorit</translation></message>
    <message><source>Favourites</source><translation>Favoriten</translation></message>
    <message><source>Feather</source><translation>Weicher Rand</translation></message>
    <message><source>Figures</source><translation>Zahlen</translation></message>
    <message><source>Figures beside it</source><translation>Zahlen daneben</translation></message>
    <message><source>Figures of the channels</source><translation>Zahlen der Kanäle</translation></message>
    <message><source>File</source><translation>Datei</translation></message>
    <message><source>Fill the frame</source><translation>Bild füllen</translation></message>
    <message><source>Fill the screen</source><translation>Bildschirm füllen</translation></message>
    <message><source>Fill the window with the chosen row</source><translation>Das Fenster mit der gewählten Zeile füllen</translation></message>
    <message><source>Fill the window with this row</source><translation>Das Fenster mit dieser Zeile füllen</translation></message>
    <message><source>Fills the frame</source><translation>Füllt das Bild</translation></message>
    <message><source>Film</source><translation>Film</translation></message>
    <message><source>Filmed at</source><translation>Gefilmt mit</translation></message>
    <message><source>Find a command</source><translation>Befehl suchen</translation></message>
    <message><source>Find hits in the picture</source><translation>Schläge im Bild finden</translation></message>
    <message><source>Find hits in the sound</source><translation>Schläge im Ton finden</translation></message>
    <message><source>Find missing footage</source><translation>Fehlendes Material finden</translation></message>
    <message><source>Find missing footage…</source><translation>Fehlendes Material finden…</translation></message>
    <message><source>Find the framing that needs the least crop</source><translation>Den Bildausschnitt finden, der den geringsten Beschnitt braucht</translation></message>
    <message><source>Finer and quicker swells on top, each half as strong</source><translation>Feinere und schnellere Wogen darüber, jede halb so stark</translation></message>
    <message><source>Finish, then close</source><translation>Fertigstellen, dann schließen</translation></message>
    <message><source>First arrivals</source><translation>Erste Ankünfte</translation></message>
    <message><source>First frame</source><translation>Erstes Bild</translation></message>
    <message><source>First shot's rate</source><translation>Rate der ersten Einstellung</translation></message>
    <message><source>First shot's size</source><translation>Größe der ersten Einstellung</translation></message>
    <message><source>Fit</source><translation>Passend</translation></message>
    <message><source>Fit reach, rate and roughness to measured motion, and compare the spectra</source><translation>Ausschlag, Frequenz und Rauheit an gemessene Bewegung anpassen und die Spektren vergleichen</translation></message>
    <message><source>Fit the view to the keys</source><translation>Die Ansicht an die Keyframes anpassen</translation></message>
    <message><source>Fit to the keys</source><translation>An die Keyframes anpassen</translation></message>
    <message><source>Flinch</source><translation>Zucken</translation></message>
    <message><source>Flinches at hits</source><translation>Zuckt bei Schlägen</translation></message>
    <message><source>Float</source><translation>Schweben</translation></message>
    <message><source>Floating timber against a plate: 62 Hz that rings on in the hold.</source><translation>Treibholz gegen eine Bordwand: 62 Hz, die im Laderaum nachklingen.</translation></message>
    <message><source>Floor</source><translation>Boden</translation></message>
    <message><source>Focal length</source><translation>Brennweite</translation></message>
    <message><source>Focal length for a sensor 36 mm wide; 0 is not known</source><translation>Brennweite, bezogen auf einen 36 mm breiten Sensor; 0 ist unbekannt</translation></message>
    <message><source>Focal length of the clip, for a sensor 36 mm wide; 0 is not known</source><translation>Brennweite des Clips, bezogen auf einen 36 mm breiten Sensor; 0 ist unbekannt</translation></message>
    <message><source>Fold or unfold</source><translation>Ein- oder ausklappen</translation></message>
    <message><source>Fold the reel away</source><translation>Die Rolle einklappen</translation></message>
    <message><source>Follow</source><translation>Folgen</translation></message>
    <message><source>Follow all the way, by {0:.0f} %</source><translation>Ganz folgen, um {0:.0f} %</translation></message>
    <message><source>Follow by {0:.0f} % of the height, as the crop allows</source><translation>Um {0:.0f} % der Höhe folgen, wie es der Beschnitt erlaubt</translation></message>
    <message><source>Follow what moves</source><translation>Folgen, was sich bewegt</translation></message>
    <message><source>Follows</source><translation>Folgt</translation></message>
    <message><source>Follows the camera's speed</source><translation>Folgt dem Tempo der Kamera</translation></message>
    <message><source>Follows the intensity</source><translation>Folgt der Intensität</translation></message>
    <message><source>Font file…</source><translation>Schriftdatei…</translation></message>
    <message><source>Font size, percent of frame height</source><translation>Schriftgröße, Prozent der Bildhöhe</translation></message>
    <message><source>Fonts (*.ttf *.otf *.ttc *.otc)</source><translation>Schriften (*.ttf *.otf *.ttc *.otc)</translation></message>
    <message><source>Footage (*.mp4 *.mov *.mkv *.avi *.webm *.m4v *.mxf *.mts);;All files (*)</source><translation>Material (*.mp4 *.mov *.mkv *.avi *.webm *.m4v *.mxf *.mts);;Alle Dateien (*)</translation></message>
    <message><source>Footage rate</source><translation>Rate des Materials</translation></message>
    <message><source>Footage size</source><translation>Größe des Materials</translation></message>
    <message><source>Footage sound</source><translation>Ton des Materials</translation></message>
    <message><source>For all projects</source><translation>Für alle Projekte</translation></message>
    <message><source>For beats in music: a zoom that rings at 6 Hz and settles within a third of a beat, hardly any shift</source><translation>Für Takte in Musik: ein Zoom, der mit 6 Hz schwingt und sich in einem Drittel eines Takts beruhigt, kaum Verschiebung</translation></message>
    <message><source>Format</source><translation>Format</translation></message>
    <message><source>Found hits</source><translation>Gefundene Schläge</translation></message>
    <message><source>Found in this clip and set right; untick to leave it as it was seen</source><translation>In diesem Clip gefunden und berichtigt; Haken entfernen, um es zu lassen, wie es war</translation></message>
    <message><source>Four kilograms held out for long: sway grows, and the tremor of the hand drops and comes and goes in waves</source><translation>Vier Kilogramm, lange von sich gehalten: Das Schwanken wächst, das Zittern der Hand wird langsamer und kommt und geht in Wellen</translation></message>
    <message><source>Frame</source><translation>Bild</translation></message>
    <message><source>Frame rate of numbered pictures</source><translation>Bildrate nummerierter Bilder</translation></message>
    <message><source>Frame to frame</source><translation>Von Bild zu Bild</translation></message>
    <message><source>Frames a second of the delivery; the sound stays in time</source><translation>Bilder je Sekunde der Auslieferung; der Ton bleibt in der Zeit</translation></message>
    <message><source>Frames a second of the timeline</source><translation>Bilder je Sekunde des Schnitts</translation></message>
    <message><source>Frames left out</source><translation>Ausgelassene Bilder</translation></message>
    <message><source>Frames out of focus after each hit; 0 is none</source><translation>Unscharfe Bilder nach jedem Schlag; 0 ist keines</translation></message>
    <message><source>Frames shown twice</source><translation>Doppelt gezeigte Bilder</translation></message>
    <message><source>Frames smeared after each hit (directional blur); 0 is none</source><translation>Verwischte Bilder nach jedem Schlag (Richtungsunschärfe); 0 ist keines</translation></message>
    <message><source>Frames to advance after each drag that sets a key</source><translation>Bilder, um die es nach jedem Ziehen mit Keyframe weitergeht</translation></message>
    <message><source>Framing</source><translation>Ausschnitt</translation></message>
    <message><source>Framing guide…</source><translation>Kadrierhilfe…</translation></message>
    <message><source>Free tangents</source><translation>Freie Tangenten</translation></message>
    <message><source>From</source><translation>Von</translation></message>
    <message><source>From 1 to 5, 5 is best</source><translation>Von 1 bis 5, 5 ist am besten</translation></message>
    <message><source>From a clean ring to noise</source><translation>Vom klaren Klang bis zum Rauschen</translation></message>
    <message><source>From a file…</source><translation>Aus einer Datei…</translation></message>
    <message><source>From a folder…</source><translation>Aus einem Ordner…</translation></message>
    <message><source>From here on</source><translation>Ab hier</translation></message>
    <message><source>From how many octaves above it comes</source><translation>Von so vielen Oktaven darüber kommt er</translation></message>
    <message><source>From lens to lens, as angles</source><translation>Von Objektiv zu Objektiv, als Winkel</translation></message>
    <message><source>From nothing, after its start</source><translation>Aus dem Nichts, nach seinem Anfang</translation></message>
    <message><source>From one correction of the framing to the next, as learned</source><translation>Von einer Korrektur des Ausschnitts zur nächsten, wie gelernt</translation></message>
    <message><source>From stillness at the shot's start</source><translation>Aus der Ruhe am Anfang der Einstellung</translation></message>
    <message><source>From the camera (parallax): travel shrinks with it, turns do not. 1 is what it was set for</source><translation>Von der Kamera (Parallaxe): Der Weg schrumpft damit, Drehungen nicht. 1 ist, wofür es eingestellt wurde</translation></message>
    <message><source>From the first row of the picture to the last (jelly effect); a phone takes 10 to 25</source><translation>Von der ersten Bildzeile zur letzten (Wobbeln); ein Telefon braucht 10 bis 25</translation></message>
    <message><source>Full chroma</source><translation>Volle Farbauflösung</translation></message>
    <message><source>Gaps if open</source><translation>Lücken, wenn offen</translation></message>
    <message><source>Gate weave</source><translation>Bildstandsschwankung</translation></message>
    <message><source>Gather into a folder…</source><translation>In einen Ordner sammeln…</translation></message>
    <message><source>Gather the project into an empty folder</source><translation>Das Projekt in einen leeren Ordner sammeln</translation></message>
    <message><source>Gathered in {0}.</source><translation>Gesammelt in {0}.</translation></message>
    <message><source>Gathering: {0} of {1} files, {2} left.</source><translation>Sammelt: {0} von {1} Dateien, noch {2}.</translation></message>
    <message><source>Giant footstep</source><translation>Riesenschritt</translation></message>
    <message><source>Give the chart the window's whole width</source><translation>Dem Diagramm die ganze Fensterbreite geben</translation></message>
    <message><source>Glass</source><translation>Glas</translation></message>
    <message><source>Glass rattle</source><translation>Glasklirren</translation></message>
    <message><source>Go on</source><translation>Weitermachen</translation></message>
    <message><source>Go on with it</source><translation>Damit weitermachen</translation></message>
    <message><source>Go to the frame that needs the largest crop</source><translation>Zum Bild gehen, das den größten Beschnitt braucht</translation></message>
    <message><source>Go to the menus</source><translation>Zu den Menüs gehen</translation></message>
    <message><source>Go to worst frame</source><translation>Zum schlimmsten Bild</translation></message>
    <message><source>Goes round until the shot ends</source><translation>Läuft im Kreis, bis die Einstellung endet</translation></message>
    <message><source>Got it</source><translation>Verstanden</translation></message>
    <message><source>Graphics</source><translation>Grafik</translation></message>
    <message><source>Gravel track</source><translation>Schotterweg</translation></message>
    <message><source>Ground</source><translation>Boden</translation></message>
    <message><source>Ground arrival</source><translation>Ankunft im Boden</translation></message>
    <message><source>Ground-borne rolling sound, most of it at 30 to 80 Hz: Thompson, Railway Noise and Vibration, 2009.</source><translation>Rollgeräusch durch den Boden, das meiste bei 30 bis 80 Hz: Thompson, Railway Noise and Vibration, 2009.</translation></message>
    <message><source>Group</source><translation>Gruppe</translation></message>
    <message><source>Gusts</source><translation>Böen</translation></message>
    <message><source>Gyroscope log</source><translation>Gyroskop-Protokoll</translation></message>
    <message><source>Gyroscope log of {0}</source><translation>Gyroskop-Protokoll zu {0}</translation></message>
    <message><source>Gyroscope logs (*.csv *.txt)</source><translation>Gyroskop-Protokolle (*.csv *.txt)</translation></message>
    <message><source>H.264</source><translation>H.264</translation></message>
    <message><source>H.264 that every player plays: 8 bit, 4:2:0, even size</source><translation>H.264, das jeder Abspieler abspielt: 8 Bit, 4:2:0, gerade Größe</translation></message>
    <message><source>H.265</source><translation>H.265</translation></message>
    <message><source>Habit</source><translation>Gewohnheit</translation></message>
    <message><source>Half as high</source><translation>Halb so hoch</translation></message>
    <message><source>Half as long</source><translation>Halb so lang</translation></message>
    <message><source>Hand</source><translation>Hand</translation></message>
    <message><source>Handheld and impact shake for locked-off footage and graphics.</source><translation>Wackeln aus der Hand und von Schlägen für ruhiges Material und Grafik.</translation></message>
    <message><source>Handlebars</source><translation>Lenker</translation></message>
    <message><source>Handlebars: much roll and height, broad from 3 to 15 Hz, lean of the body below 0.5 Hz</source><translation>Lenker: viel Rollen und Höhe, breit von 3 bis 15 Hz, Neigen des Körpers unter 0,5 Hz</translation></message>
    <message><source>Handles</source><translation>Griffe</translation></message>
    <message><source>Heard: {0}</source><translation>Gehört: {0}</translation></message>
    <message><source>Heavy drop</source><translation>Schwerer Fall</translation></message>
    <message><source>Heel strike</source><translation>Fersenaufsatz</translation></message>
    <message><source>Height</source><translation>Höhe</translation></message>
    <message><source>Held</source><translation>Gehalten</translation></message>
    <message><source>Held by somebody</source><translation>Von jemandem gehalten</translation></message>
    <message><source>Held in place by its control, pushed by gusts: slow yaw and drift of seconds, quick small answers at 3 Hz, no tremor</source><translation>Von ihrer Regelung gehalten, von Böen geschoben: langsames Gieren und Treiben über Sekunden, schnelle kleine Antworten mit 3 Hz, kein Zittern</translation></message>
    <message><source>Held on twos at 12 places a second, more turn than travel, leaning in: a title that will not lie still</source><translation>Auf Zweiern mit 12 Orten je Sekunde, mehr Drehung als Weg, nach innen geneigt: ein Titel, der nicht stillliegt</translation></message>
    <message><source>Helicopter</source><translation>Hubschrauber</translation></message>
    <message><source>Help</source><translation>Hilfe</translation></message>
    <message><source>Hide this row</source><translation>Diese Zeile ausblenden</translation></message>
    <message><source>Hint</source><translation>Hinweis</translation></message>
    <message><source>Hit</source><translation>Schlag</translation></message>
    <message><source>Hit after</source><translation>Schlag danach</translation></message>
    <message><source>Hit at the playhead</source><translation>Schlag am Abspielkopf</translation></message>
    <message><source>Hit at the playhead (H)</source><translation>Schlag am Abspielkopf (H)</translation></message>
    <message><source>Hit before</source><translation>Schlag davor</translation></message>
    <message><source>Hit here</source><translation>Schlag hier</translation></message>
    <message><source>Hit of the span</source><translation>Schlag der Spanne</translation></message>
    <message><source>Hit {0}: {1:.2f} seconds, strength {2:g}</source><translation>Schlag {0}: {1:.2f} Sekunden, Wucht {2:g}</translation></message>
    <message><source>Hits</source><translation>Schläge</translation></message>
    <message><source>Hits and more</source><translation>Schläge und mehr</translation></message>
    <message><source>Hold</source><translation>Halten</translation></message>
    <message><source>Hold C to see the still original.</source><translation>C gedrückt halten, um das ruhige Original zu sehen.</translation></message>
    <message><source>Hold edge</source><translation>Rand halten</translation></message>
    <message><source>Hold peaks at −1 dB</source><translation>Spitzen bei −1 dB halten</translation></message>
    <message><source>Hold, hard</source><translation>Halten, hart</translation></message>
    <message><source>Holder</source><translation>Kameraperson</translation></message>
    <message><source>Horizon: a floor below it</source><translation>Horizont: darunter ein Boden</translation></message>
    <message><source>Hover</source><translation>Schwebeflug</translation></message>
    <message><source>Hovering a preset plays it on the picture. Click or Return keeps it; Shift-click adds it; Esc goes back.</source><translation>Über einer Vorlage schweben spielt sie auf dem Bild ab. Klick oder Eingabe behält sie, Umschalt und Klick fügt sie hinzu, Esc geht zurück.</translation></message>
    <message><source>How far a kick pushes, in times the reach</source><translation>Wie weit ein Ruck drückt, in Vielfachen des Ausschlags</translation></message>
    <message><source>How far it goes to the sides</source><translation>Wie weit es zu den Seiten geht</translation></message>
    <message><source>How far it goes to the sides with the picture</source><translation>Wie weit es mit dem Bild zu den Seiten geht</translation></message>
    <message><source>How far its clock has run when the shot begins</source><translation>Wie weit seine Uhr gelaufen ist, wenn die Einstellung beginnt</translation></message>
    <message><source>How far its regular part is ahead of the common beat</source><translation>Wie weit sein regelmäßiger Teil dem gemeinsamen Takt voraus ist</translation></message>
    <message><source>How far its size comes and goes</source><translation>Wie weit seine Größe kommt und geht</translation></message>
    <message><source>How far right and down, percent of the size</source><translation>Wie weit nach rechts und unten, Prozent der Größe</translation></message>
    <message><source>How fast it comes (attack)</source><translation>Wie schnell es kommt (Attack)</translation></message>
    <message><source>How fast its time runs</source><translation>Wie schnell seine Zeit läuft</translation></message>
    <message><source>How fast the holder walks or runs</source><translation>Wie schnell die Kameraperson geht oder läuft</translation></message>
    <message><source>How hard; 1 is the norm</source><translation>Wie hart; 1 ist die Norm</translation></message>
    <message><source>How its colours are stored beside alpha</source><translation>Wie seine Farben neben Alpha gespeichert sind</translation></message>
    <message><source>How its colours go together with those behind</source><translation>Wie seine Farben mit denen dahinter zusammengehen</translation></message>
    <message><source>How late</source><translation>Wie spät</translation></message>
    <message><source>How late the exposure lies against the frame's time</source><translation>Wie spät die Belichtung in der Zeit des Bilds liegt</translation></message>
    <message><source>How long it typically holds still</source><translation>Wie lange es meist stillhält</translation></message>
    <message><source>How long one takes</source><translation>Wie lange einer dauert</translation></message>
    <message><source>How long the shutter is open (motion blur): 360° is the frame's whole time</source><translation>Wie lange der Verschluss offen ist (Bewegungsunschärfe): 360° ist die ganze Zeit des Bilds</translation></message>
    <message><source>How long until a third is left (decay)</source><translation>Wie lange, bis ein Drittel übrig ist (Decay)</translation></message>
    <message><source>How long until a third of it is left</source><translation>Wie lange, bis ein Drittel davon übrig ist</translation></message>
    <message><source>How loud (volume); −48 and less is silence</source><translation>Wie laut (Pegel); −48 und weniger ist Stille</translation></message>
    <message><source>How loud; −48 and less is silence</source><translation>Wie laut; −48 und weniger ist Stille</translation></message>
    <message><source>How many octaves it is wide</source><translation>Wie viele Oktaven breit es ist</translation></message>
    <message><source>How much all axes and strands grow rough and quiet at the same moments</source><translation>Wie sehr alle Achsen und Stränge zugleich rau und ruhig werden</translation></message>
    <message><source>How much crop there may be; Limit turns the intensity down to it</source><translation>Wie viel Beschnitt es geben darf; Begrenzen senkt die Intensität darauf</translation></message>
    <message><source>How much hits differ in size, direction, ring and settling; 0 is every hit alike</source><translation>Wie sehr sich Schläge in Größe, Richtung, Klang und Nachklang unterscheiden; 0 ist jeder gleich</translation></message>
    <message><source>How much no two of them are alike</source><translation>Wie sehr keine zwei gleich sind</translation></message>
    <message><source>How much of each</source><translation>Wie viel von jedem</translation></message>
    <message><source>How much of its own shake</source><translation>Wie viel vom eigenen Wackeln</translation></message>
    <message><source>How much of the whole shake</source><translation>Wie viel vom ganzen Wackeln</translation></message>
    <message><source>How much of this strand</source><translation>Wie viel von diesem Strang</translation></message>
    <message><source>How much of this strand (amplitude)</source><translation>Wie viel von diesem Strang (Amplitude)</translation></message>
    <message><source>How much steps differ in size; a walk has 0.1</source><translation>Wie sehr sich Schritte in der Größe unterscheiden; ein Gang hat 0,1</translation></message>
    <message><source>How much the room answers (reverb)</source><translation>Wie sehr der Raum antwortet (Hall)</translation></message>
    <message><source>How much the rounds differ in size and time</source><translation>Wie sehr sich die Runden in Größe und Zeit unterscheiden</translation></message>
    <message><source>How often</source><translation>Wie oft</translation></message>
    <message><source>How often it grows rough and quiet</source><translation>Wie oft es rau und ruhig wird</translation></message>
    <message><source>How often its size comes and goes</source><translation>Wie oft seine Größe kommt und geht</translation></message>
    <message><source>How opaque it is</source><translation>Wie deckend es ist</translation></message>
    <message><source>How quickly it rises with the motion</source><translation>Wie schnell es mit der Bewegung steigt</translation></message>
    <message><source>How slowly it falls after it</source><translation>Wie langsam es danach fällt</translation></message>
    <message><source>How slowly the crop comes and goes: a quick one shows</source><translation>Wie langsam der Beschnitt kommt und geht: Ein schneller fällt auf</translation></message>
    <message><source>How the camera is held</source><translation>Wie die Kamera gehalten wird</translation></message>
    <message><source>How the footage fits</source><translation>Wie das Material eingepasst wird</translation></message>
    <message><source>How the telephone was held</source><translation>Wie das Telefon gehalten wurde</translation></message>
    <message><source>How to look again</source><translation>Wie noch einmal gemessen wird</translation></message>
    <message><source>How white the shape is</source><translation>Wie weiß die Form ist</translation></message>
    <message><source>Hull</source><translation>Rumpf</translation></message>
    <message><source>Hull knock</source><translation>Rumpfklopfen</translation></message>
    <message><source>Hum</source><translation>Brummen</translation></message>
    <message><source>Hunting</source><translation>Schlingern</translation></message>
    <message><source>Hz</source><translation>Hz</translation></message>
    <message><source>Impact</source><translation>Aufschlag</translation></message>
    <message><source>Import</source><translation>Importieren</translation></message>
    <message><source>Import presets</source><translation>Vorlagen importieren</translation></message>
    <message><source>Import presets from a file or a folder</source><translation>Vorlagen aus einer Datei oder einem Ordner importieren</translation></message>
    <message><source>Import presets of a folder</source><translation>Vorlagen eines Ordners importieren</translation></message>
    <message><source>In a window of its own</source><translation>In einem eigenen Fenster</translation></message>
    <message><source>In hardware</source><translation>In Hardware</translation></message>
    <message><source>In place of the shake</source><translation>Anstelle des Wackelns</translation></message>
    <message><source>In the stack</source><translation>Im Stapel</translation></message>
    <message><source>Index</source><translation>Stichwörter</translation></message>
    <message><source>Intensity</source><translation>Intensität</translation></message>
    <message><source>Intensity turned down to {0:.0f} % of what it was.</source><translation>Intensität auf {0:.0f} % des bisherigen Werts gesenkt.</translation></message>
    <message><source>Irregular</source><translation>Unregelmäßig</translation></message>
    <message><source>It begins again</source><translation>Es beginnt von vorn</translation></message>
    <message><source>It has no key.</source><translation>Es hat keine Taste.</translation></message>
    <message><source>It has to be heard as well</source><translation>Man muss es auch hören</translation></message>
    <message><source>It is gone</source><translation>Es ist fort</translation></message>
    <message><source>It moves as one</source><translation>Es bewegt sich als Ganzes</translation></message>
    <message><source>Its centre: percent of frame height below the middle</source><translation>Seine Mitte: Prozent der Bildhöhe unter der Mitte</translation></message>
    <message><source>Its centre: percent of frame height right of the middle</source><translation>Seine Mitte: Prozent der Bildhöhe rechts der Mitte</translation></message>
    <message><source>Its dials are under “Who holds it”. A strand that you change yourself is left alone.</source><translation>Die Regler dafür stehen unter „Wer sie hält“. Ein selbst geänderter Strang bleibt unberührt.</translation></message>
    <message><source>Its height</source><translation>Seine Höhe</translation></message>
    <message><source>Its key</source><translation>Seine Taste</translation></message>
    <message><source>Its last picture is held</source><translation>Sein letztes Bild bleibt stehen</translation></message>
    <message><source>Its motion can then move any shot</source><translation>Seine Bewegung kann dann jede Einstellung bewegen</translation></message>
    <message><source>Its own shake is added again. The amount sets the exaggeration.</source><translation>Das eigene Wackeln kommt noch einmal hinzu. Die Stärke bestimmt die Übertreibung.</translation></message>
    <message><source>Its top</source><translation>Sein oberer Rand</translation></message>
    <message><source>Its width</source><translation>Seine Breite</translation></message>
    <message><source>Jitter</source><translation>Zittern</translation></message>
    <message><source>Joints</source><translation>Schienenstöße</translation></message>
    <message><source>Jolts</source><translation>Stöße</translation></message>
    <message><source>Jolts answer to hits: press H to set one, Shift+H to find them in the sound.</source><translation>Stöße antworten auf Schläge: H setzt einen, Umschalt+H findet sie im Ton.</translation></message>
    <message><source>Keep</source><translation>Behalten</translation></message>
    <message><source>Keep as preset</source><translation>Als Vorlage behalten</translation></message>
    <message><source>Keep clear</source><translation>Freihalten</translation></message>
    <message><source>Keep found hits</source><translation>Gefundene Schläge behalten</translation></message>
    <message><source>Keep fresh</source><translation>Aktuell halten</translation></message>
    <message><source>Keep in library</source><translation>In der Bibliothek behalten</translation></message>
    <message><source>Keep the shot's intensity</source><translation>Die Intensität der Einstellung behalten</translation></message>
    <message><source>Keep this shot's shake</source><translation>Das Wackeln dieser Einstellung behalten</translation></message>
    <message><source>Keep {0}</source><translation>{0} behalten</translation></message>
    <message><source>Key of the marked command</source><translation>Taste des markierten Befehls</translation></message>
    <message><source>Keys and commands</source><translation>Tasten und Befehle</translation></message>
    <message><source>Keys between</source><translation>Keyframes dazwischen</translation></message>
    <message><source>Kick size</source><translation>Größe der Rucke</translation></message>
    <message><source>Kicks</source><translation>Rucke</translation></message>
    <message><source>Knock</source><translation>Klopfen</translation></message>
    <message><source>Knock for</source><translation>Klopfen für</translation></message>
    <message><source>Knocks</source><translation>Klopfen</translation></message>
    <message><source>Knocks come at hits: press H to set one, Shift+H to find them in the sound.</source><translation>Klopfen kommt bei Schlägen: H setzt einen, Umschalt+H findet sie im Ton.</translation></message>
    <message><source>Knuckles on a case: 240 Hz, gone in a tenth of a second.</source><translation>Knöchel auf einem Kasten: 240 Hz, in einer Zehntelsekunde vorbei.</translation></message>
    <message><source>Lag</source><translation>Nachlauf</translation></message>
    <message><source>Language</source><translation>Sprache</translation></message>
    <message><source>Language of the window; from the next start on</source><translation>Sprache des Fensters; ab dem nächsten Start</translation></message>
    <message><source>Large and far: rolling at 0.2 to 1 Hz for tens of seconds, horizontal much stronger than vertical</source><translation>Groß und fern: Wogen mit 0,2 bis 1 Hz über Dutzende Sekunden, waagerecht viel stärker als senkrecht</translation></message>
    <message><source>Largest swing (amplitude), percent of the frame's height</source><translation>Größtes Schwingen (Amplitude), Prozent der Bildhöhe</translation></message>
    <message><source>Largest turn</source><translation>Größte Drehung</translation></message>
    <message><source>Largest zoom</source><translation>Größter Zoom</translation></message>
    <message><source>Last frame</source><translation>Letztes Bild</translation></message>
    <message><source>Lasts</source><translation>Dauert</translation></message>
    <message><source>Latency of tapped hits</source><translation>Tippverzug</translation></message>
    <message><source>Lateral sway at 0.9 Hz with roll in step, vertical at 1.5 Hz, rail joints as a pulse</source><translation>Seitliches Schwanken mit 0,9 Hz und Rollen im Takt, senkrecht mit 1,5 Hz, Schienenstöße als Puls</translation></message>
    <message><source>Lay a graphic over it…</source><translation>Grafik darüberlegen…</translation></message>
    <message><source>Lay on the glass</source><translation>Auf das Glas legen</translation></message>
    <message><source>Lay one on the glass…</source><translation>Etwas auf das Glas legen…</translation></message>
    <message><source>Lay over the shot</source><translation>Über die Einstellung legen</translation></message>
    <message><source>Lay over this shot</source><translation>Über diese Einstellung legen</translation></message>
    <message><source>Lay {0} over it</source><translation>{0} darüberlegen</translation></message>
    <message><source>Layers of the shot</source><translation>Ebenen der Einstellung</translation></message>
    <message><source>Leading</source><translation>Zeilenabstand</translation></message>
    <message><source>Lean</source><translation>Schräglage</translation></message>
    <message><source>Leaning on a wall or rail: the body is quiet, what remains is breath and the heartbeat, a short pulse in the tilt, and tremor</source><translation>An Wand oder Geländer gelehnt: Der Körper ist ruhig, es bleiben Atem und Herzschlag, ein kurzer Puls in der Neigung, und Zittern</translation></message>
    <message><source>Leaning, long lens</source><translation>Angelehnt, lange Brennweite</translation></message>
    <message><source>Leave axes out</source><translation>Achsen weglassen</translation></message>
    <message><source>Leave open</source><translation>Offen lassen</translation></message>
    <message><source>Leaves out its beginning</source><translation>Lässt den Anfang weg</translation></message>
    <message><source>Leaves out its end; 0 keeps it</source><translation>Lässt das Ende weg; 0 behält es</translation></message>
    <message><source>Left</source><translation>Links</translation></message>
    <message><source>Left edge of what must stay clear</source><translation>Linker Rand dessen, was frei bleiben muss</translation></message>
    <message><source>Length</source><translation>Länge</translation></message>
    <message><source>Length of the crossfade</source><translation>Länge der Überblendung</translation></message>
    <message><source>Lens</source><translation>Objektiv</translation></message>
    <message><source>Lens and pivot</source><translation>Objektiv und Drehpunkt</translation></message>
    <message><source>Let somebody hold it</source><translation>Jemanden die Kamera halten lassen</translation></message>
    <message><source>Letter</source><translation>Buchstabe</translation></message>
    <message><source>Letter spacing, thousandths of the em</source><translation>Laufweite, Tausendstel des Gevierts</translation></message>
    <message><source>Letter stamp</source><translation>Letternschlag</translation></message>
    <message><source>Letter thud</source><translation>Dumpfer Letternschlag</translation></message>
    <message><source>Lettering</source><translation>Schriftsatz</translation></message>
    <message><source>Level</source><translation>Pegel</translation></message>
    <message><source>Level of the sound</source><translation>Pegel des Tons</translation></message>
    <message><source>Licences</source><translation>Lizenzen</translation></message>
    <message><source>Light added for looking only: films and pictures are delivered without it.</source><translation>Licht nur zum Ansehen: Filme und Bilder werden ohne es ausgeliefert.</translation></message>
    <message><source>Light first, the air blast a second later from 340 m: soft rise, low ring, long tail</source><translation>Zuerst das Licht, die Druckwelle eine Sekunde später aus 340 m: weicher Anstieg, tiefer Klang, langer Ausklang</translation></message>
    <message><source>Likewise</source><translation>Ebenso</translation></message>
    <message><source>Limit</source><translation>Begrenzen</translation></message>
    <message><source>Limit to {0:g} %</source><translation>Auf {0:g} % begrenzen</translation></message>
    <message><source>Line</source><translation>Zeile</translation></message>
    <message><source>Line spacing, percent of the size</source><translation>Zeilenabstand, Prozent der Größe</translation></message>
    <message><source>Linear, P3</source><translation>Linear, P3</translation></message>
    <message><source>Linear, Rec. 2020</source><translation>Linear, Rec. 2020</translation></message>
    <message><source>Linear, Rec. 709</source><translation>Linear, Rec. 709</translation></message>
    <message><source>Lines begin at one edge</source><translation>Zeilen beginnen an einer Kante</translation></message>
    <message><source>Lines end at one edge</source><translation>Zeilen enden an einer Kante</translation></message>
    <message><source>List</source><translation>Liste</translation></message>
    <message><source>Little travel, more turn: 0.6° at six swings a second, rough, and never the same size twice</source><translation>Wenig Weg, mehr Drehung: 0,6° bei sechs Schwingungen je Sekunde, rau und nie zweimal gleich groß</translation></message>
    <message><source>Log3G10 REDWideGamutRGB</source><translation>Log3G10 REDWideGamutRGB</translation></message>
    <message><source>Long</source><translation>Lang</translation></message>
    <message><source>Look again here</source><translation>Hier noch einmal messen</translation></message>
    <message><source>Look at it as it is lit</source><translation>Ansehen, wie es belichtet ist</translation></message>
    <message><source>Look at it brighter</source><translation>Heller ansehen</translation></message>
    <message><source>Look at it darker</source><translation>Dunkler ansehen</translation></message>
    <message><source>Look at the demo</source><translation>Die Demo ansehen</translation></message>
    <message><source>Look closer</source><translation>Näher ansehen</translation></message>
    <message><source>Look for missing footage in</source><translation>Fehlendes Material suchen in</translation></message>
    <message><source>Look from farther</source><translation>Von weiter weg ansehen</translation></message>
    <message><source>Looking about</source><translation>Umherblicken</translation></message>
    <message><source>Looking for hits in the {0}: {1} %, {2} left.</source><translation>Sucht Schläge ({0}): {1} %, noch {2}.</translation></message>
    <message><source>Looking for what moves: {0} %, {1} left.</source><translation>Sucht, was sich bewegt: {0} %, noch {1}.</translation></message>
    <message><source>Loop, crossfaded</source><translation>Schleife, überblendet</translation></message>
    <message><source>Louder while the picture moves fast, to the side that it goes to.</source><translation>Lauter, solange sich das Bild schnell bewegt, auf der Seite, zu der es geht.</translation></message>
    <message><source>Low rows</source><translation>Niedrige Zeilen</translation></message>
    <message><source>Low thud</source><translation>Tiefer dumpfer Schlag</translation></message>
    <message><source>Low, uneven, from below</source><translation>Tief, ungleichmäßig, von unten</translation></message>
    <message><source>Machine floor</source><translation>Maschinenboden</translation></message>
    <message><source>Made before these settings were calibrated; it still moves as it did</source><translation>Vor dem Abgleich dieser Einstellungen gemacht; es bewegt sich noch wie damals</translation></message>
    <message><source>Magnifier</source><translation>Lupe</translation></message>
    <message><source>Main shock</source><translation>Hauptstoß</translation></message>
    <message><source>Make a take</source><translation>Einen Take machen</translation></message>
    <message><source>Make room</source><translation>Platz machen</translation></message>
    <message><source>Manual</source><translation>Handbuch</translation></message>
    <message><source>Manual – Young Tremor</source><translation>Handbuch – Young Tremor</translation></message>
    <message><source>Mapped</source><translation>Abgebildet</translation></message>
    <message><source>Mark from here</source><translation>Markieren ab hier</translation></message>
    <message><source>Mark to here</source><translation>Markieren bis hier</translation></message>
    <message><source>Marked stretch</source><translation>Markierter Abschnitt</translation></message>
    <message><source>Match a take…</source><translation>Take anpassen…</translation></message>
    <message><source>Match colours</source><translation>Farben angleichen</translation></message>
    <message><source>Match {0}</source><translation>{0} angleichen</translation></message>
    <message><source>Matter</source><translation>Stoff</translation></message>
    <message><source>MaxCLL and MaxFALL of a film in PQ, in a pass before it is encoded</source><translation>MaxCLL und MaxFALL eines Films in PQ, in einem Durchgang vor dem Kodieren</translation></message>
    <message><source>Measure</source><translation>Messen</translation></message>
    <message><source>Measure a clip</source><translation>Clip messen</translation></message>
    <message><source>Measure a clip…</source><translation>Clip messen…</translation></message>
    <message><source>Measure a handheld clip</source><translation>Einen Clip aus der Hand messen</translation></message>
    <message><source>Measure again</source><translation>Noch einmal messen</translation></message>
    <message><source>Measure its clip anew; the old one stays until that is whole</source><translation>Seinen Clip neu messen; der alte Take bleibt, bis das fertig ist</translation></message>
    <message><source>Measure light level</source><translation>Lichtpegel messen</translation></message>
    <message><source>Measure the marked stretch once more, with the shields as they are now</source><translation>Den markierten Abschnitt noch einmal messen, mit den jetzigen Abdeckungen</translation></message>
    <message><source>Measure the shake that the shot has already, to add to it</source><translation>Das Wackeln messen, das die Einstellung schon hat, um es zu verstärken</translation></message>
    <message><source>Measure the shot</source><translation>Die Einstellung messen</translation></message>
    <message><source>Measure this shot</source><translation>Diese Einstellung messen</translation></message>
    <message><source>Measure {0}</source><translation>{0} messen</translation></message>
    <message><source>Measure {0} again</source><translation>{0} noch einmal messen</translation></message>
    <message><source>Measuring {0}: {1} left.</source><translation>Misst {0}: noch {1}.</translation></message>
    <message><source>Memory for frames ready to play</source><translation>Speicher für abspielbereite Bilder</translation></message>
    <message><source>Menus</source><translation>Menüs</translation></message>
    <message><source>Message</source><translation>Meldung</translation></message>
    <message><source>Metal</source><translation>Metall</translation></message>
    <message><source>Microseconds</source><translation>Mikrosekunden</translation></message>
    <message><source>Milliseconds</source><translation>Millisekunden</translation></message>
    <message><source>Mirror</source><translation>Spiegeln</translation></message>
    <message><source>Mirrored, left for right</source><translation>Gespiegelt, links und rechts vertauscht</translation></message>
    <message><source>Motion</source><translation>Bewegung</translation></message>
    <message><source>Motion (*.csv)</source><translation>Bewegung (*.csv)</translation></message>
    <message><source>Motion as CSV</source><translation>Bewegung als CSV</translation></message>
    <message><source>Motion blur, or it looks wrong</source><translation>Unschärfe, sonst wirkt es falsch</translation></message>
    <message><source>Motion from a CSV, a camera in USD, or a gyroscope's log</source><translation>Bewegung aus einer CSV, einer Kamera in USD oder einem Gyroskop-Protokoll</translation></message>
    <message><source>Motion measured from real clips (T); drop a clip here to measure it</source><translation>An echten Clips gemessene Bewegung (T); einen Clip hierher ziehen, um ihn zu messen</translation></message>
    <message><source>Motorbike</source><translation>Motorrad</translation></message>
    <message><source>Move down</source><translation>Nach unten</translation></message>
    <message><source>Move earlier</source><translation>Früher</translation></message>
    <message><source>Move hit</source><translation>Schlag bewegen</translation></message>
    <message><source>Move later</source><translation>Später</translation></message>
    <message><source>Move plate</source><translation>Ebene bewegen</translation></message>
    <message><source>Move shots</source><translation>Einstellungen bewegen</translation></message>
    <message><source>Move span</source><translation>Spanne bewegen</translation></message>
    <message><source>Move strand</source><translation>Strang bewegen</translation></message>
    <message><source>Move up</source><translation>Nach oben</translation></message>
    <message><source>Move {0} key</source><translation>Keyframe für {0} bewegen</translation></message>
    <message><source>Moves alpha only, not the colours: for titles and graphics</source><translation>Bewegt nur Alpha, nicht die Farben: für Titel und Grafik</translation></message>
    <message><source>Moves the plate on top of its share of the shot's shake</source><translation>Bewegt die Ebene zusätzlich zu ihrem Anteil am Wackeln der Einstellung</translation></message>
    <message><source>Multiply</source><translation>Multiplizieren</translation></message>
    <message><source>Name</source><translation>Name</translation></message>
    <message><source>Name a take</source><translation>Einen Take benennen</translation></message>
    <message><source>Name of the preset</source><translation>Name der Vorlage</translation></message>
    <message><source>Name of the shot</source><translation>Name der Einstellung</translation></message>
    <message><source>Name of the sound</source><translation>Name des Tons</translation></message>
    <message><source>Name of the span</source><translation>Name der Spanne</translation></message>
    <message><source>Name of the take</source><translation>Name des Takes</translation></message>
    <message><source>Nanoseconds</source><translation>Nanosekunden</translation></message>
    <message><source>Near</source><translation>Nah</translation></message>
    <message><source>Near blast</source><translation>Nahe Explosion</translation></message>
    <message><source>Near tremor</source><translation>Nahes Beben</translation></message>
    <message><source>Nearest</source><translation>Am nächsten</translation></message>
    <message><source>Nearest frame</source><translation>Nächstes Bild</translation></message>
    <message><source>Needs the focal length of the clip; otherwise percent of frame height</source><translation>Braucht die Brennweite des Clips; sonst Prozent der Bildhöhe</translation></message>
    <message><source>Neither the shake nor the crop touches it</source><translation>Weder Wackeln noch Beschnitt berühren es</translation></message>
    <message><source>Neither the shot's shake nor its crop touches it: a logo, a subtitle</source><translation>Weder Wackeln noch Beschnitt der Einstellung berühren es: ein Logo, ein Untertitel</translation></message>
    <message><source>Nerves</source><translation>Nerven</translation></message>
    <message><source>Nervous title</source><translation>Nervöser Titel</translation></message>
    <message><source>New course</source><translation>Neuer Verlauf</translation></message>
    <message><source>New footage starts with</source><translation>Neues Material beginnt mit</translation></message>
    <message><source>New project</source><translation>Neues Projekt</translation></message>
    <message><source>New variant</source><translation>Neue Variante</translation></message>
    <message><source>News camera, walking</source><translation>Nachrichtenkamera, gehend</translation></message>
    <message><source>Night paper</source><translation>Nachtpapier</translation></message>
    <message><source>No</source><translation>Nein</translation></message>
    <message><source>No black edges, and sharp</source><translation>Keine schwarzen Ränder</translation></message>
    <message><source>No favourite</source><translation>Kein Favorit</translation></message>
    <message><source>No hits</source><translation>Keine Schläge</translation></message>
    <message><source>No key of its own</source><translation>Keine eigene Taste</translation></message>
    <message><source>No marks</source><translation>Keine Marken</translation></message>
    <message><source>No moving previews</source><translation>Keine bewegten Vorschauen</translation></message>
    <message><source>No sound</source><translation>Kein Ton</translation></message>
    <message><source>No sound device: playback is silent.</source><translation>Kein Tongerät: Die Wiedergabe ist stumm.</translation></message>
    <message><source>No sudden change was found in the {0}. Press H to set hits by hand.</source><translation>Keine plötzliche Änderung gefunden ({0}). Schläge mit H von Hand setzen.</translation></message>
    <message><source>No takes yet. Film something textured by hand, a shelf or gravel,
and measure its motion: it then moves any shot.</source><translation>Noch keine Takes. Etwas mit Struktur aus der Hand filmen, ein Regal oder Kies,
und die Bewegung messen: Sie bewegt dann jede Einstellung.</translation></message>
    <message><source>No takes yet: measure a clip first</source><translation>Noch keine Takes: zuerst einen Clip messen</translation></message>
    <message><source>None</source><translation>Keine</translation></message>
    <message><source>None: all at one distance</source><translation>Keine: alles in einem Abstand</translation></message>
    <message><source>Normal</source><translation>Normal</translation></message>
    <message><source>Not delivered: {0}</source><translation>Nicht ausgeliefert: {0}</translation></message>
    <message><source>Not saved last time</source><translation>Beim letzten Mal nicht gespeichert</translation></message>
    <message><source>Not used</source><translation>Nicht benutzt</translation></message>
    <message><source>Note of the preset</source><translation>Notiz zur Vorlage</translation></message>
    <message><source>Note: what it is for, where it comes from</source><translation>Notiz: wofür es ist, woher es kommt</translation></message>
    <message><source>Nothing is called so. Ask for example: {0}.</source><translation>Nichts heißt so. Etwa fragen: {0}.</translation></message>
    <message><source>Nothing is chosen. Click what Delete should remove.</source><translation>Nichts ist gewählt. Anklicken, was Entf entfernen soll.</translation></message>
    <message><source>Nothing is missing.</source><translation>Nichts fehlt.</translation></message>
    <message><source>Nothing moves here yet: choose a rumble or knocks by name.</source><translation>Hier bewegt sich noch nichts: ein Grollen oder Klopfen beim Namen wählen.</translation></message>
    <message><source>Nothing moves here.</source><translation>Hier bewegt sich nichts.</translation></message>
    <message><source>Nothing to redo.</source><translation>Nichts zu wiederholen.</translation></message>
    <message><source>Nothing to undo.</source><translation>Nichts rückgängig zu machen.</translation></message>
    <message><source>Nothing: it stays still</source><translation>Nichts: Es bleibt ruhig</translation></message>
    <message><source>Nudge {0} keys</source><translation>Keyframes für {0} rücken</translation></message>
    <message><source>Numbered pictures play at 24 frames a second. Change the rate under Plates.</source><translation>Nummerierte Bilder laufen mit 24 Bildern in der Sekunde. Die Rate unter Ebenen ändern.</translation></message>
    <message><source>Occasional reframing, in times the reach; the hand is steadier after each</source><translation>Gelegentliches Nachkadrieren, in Vielfachen des Ausschlags; die Hand ist danach ruhiger</translation></message>
    <message><source>Octaves</source><translation>Oktaven</translation></message>
    <message><source>Of graphics and standard range in high range, in cd/m² (ITU-R BT.2408)</source><translation>Von Grafik und Standardumfang im hohen Umfang, in cd/m² (ITU-R BT.2408)</translation></message>
    <message><source>Of it</source><translation>Davon</translation></message>
    <message><source>Of its tangent after</source><translation>Seiner Tangente danach</translation></message>
    <message><source>Of its tangent before</source><translation>Seiner Tangente davor</translation></message>
    <message><source>Of the clip that was measured</source><translation>Des gemessenen Clips</translation></message>
    <message><source>Of the desk</source><translation>Des Schreibtischs</translation></message>
    <message><source>Of the lens; longer shakes more. For a sensor 36 mm wide</source><translation>Des Objektivs; ein längeres wackelt mehr. Bezogen auf einen 36 mm breiten Sensor</translation></message>
    <message><source>Of the reel at which a shot under a span begins</source><translation>Der Rolle, bei der eine Einstellung unter einer Spanne beginnt</translation></message>
    <message><source>Of the reel, where it begins</source><translation>Der Rolle, wo sie beginnt</translation></message>
    <message><source>Of the shot's shake: 0 stands still, above 100 goes further</source><translation>Vom Wackeln der Einstellung: 0 steht still, über 100 geht es weiter</translation></message>
    <message><source>Of this channel, in place of the strand's</source><translation>Dieses Kanals, anstelle der des Strangs</translation></message>
    <message><source>Of what fills the frame (scale)</source><translation>Dessen, was das Bild füllt (Skalierung)</translation></message>
    <message><source>Offset</source><translation>Versatz</translation></message>
    <message><source>On a stand that is not firm</source><translation>Auf einem wackligen Stativ</translation></message>
    <message><source>On horseback</source><translation>Zu Pferd</translation></message>
    <message><source>On its left side</source><translation>Auf seiner linken Seite</translation></message>
    <message><source>On its right side</source><translation>Auf seiner rechten Seite</translation></message>
    <message><source>On or off</source><translation>An oder aus</translation></message>
    <message><source>On the glass</source><translation>Auf dem Glas</translation></message>
    <message><source>On the outline alone</source><translation>Nur am Umriss</translation></message>
    <message><source>On the shoulder</source><translation>Auf der Schulter</translation></message>
    <message><source>On the tank: lean into bends below 0.2 Hz, ride at 2 Hz, and the engine near 30 Hz, small</source><translation>Auf dem Tank: Schräglage in Kurven unter 0,2 Hz, Fahrwerk mit 2 Hz, Motor bei 30 Hz, klein</translation></message>
    <message><source>Once per rotor turn near 5.5 Hz, blade passing at four times that, wander well below 1 Hz</source><translation>Einmal je Rotorumdrehung bei 5,5 Hz, die Blätter mit dem Vierfachen, Wandern weit unter 1 Hz</translation></message>
    <message><source>One beside the other, with a line to drag (3)</source><translation>Nebeneinander, mit einer Linie zum Ziehen (3)</translation></message>
    <message><source>One channel</source><translation>Ein Kanal</translation></message>
    <message><source>One colour over the frame</source><translation>Eine Farbe über dem Bild</translation></message>
    <message><source>One feel for a whole scene</source><translation>Ein Gefühl für die ganze Szene</translation></message>
    <message><source>One frame back</source><translation>Ein Bild zurück</translation></message>
    <message><source>One frame back (Left)</source><translation>Ein Bild zurück (Links)</translation></message>
    <message><source>One frame on</source><translation>Ein Bild weiter</translation></message>
    <message><source>One frame on (Right)</source><translation>Ein Bild weiter (Rechts)</translation></message>
    <message><source>One hand</source><translation>Eine Hand</translation></message>
    <message><source>One in each gap</source><translation>Eines in jede Lücke</translation></message>
    <message><source>One over the other, half and half (5)</source><translation>Eines über dem anderen, halb und halb (5)</translation></message>
    <message><source>One position for each frame of film: x and y a twentieth of a percent, with a slow part</source><translation>Ein Ort je Filmbild: x und y um ein Zwanzigstel Prozent, mit einem langsamen Teil</translation></message>
    <message><source>One second back</source><translation>Eine Sekunde zurück</translation></message>
    <message><source>One second on</source><translation>Eine Sekunde weiter</translation></message>
    <message><source>One short push outward, then ring and rattle that die over a second; air blast 20 m away</source><translation>Ein kurzer Stoß nach außen, dann Schwingen und Klappern, die in einer Sekunde vergehen; Druckwelle aus 20 m</translation></message>
    <message><source>One type against paper: small, dry, near.</source><translation>Eine Letter auf Papier: klein, trocken, nah.</translation></message>
    <message><source>Only between the marks</source><translation>Nur zwischen den Marken</translation></message>
    <message><source>Only one thing moves there. Nothing was changed.</source><translation>Dort bewegt sich nur eines. Nichts wurde geändert.</translation></message>
    <message><source>Only there</source><translation>Nur dort</translation></message>
    <message><source>Opacity</source><translation>Deckkraft</translation></message>
    <message><source>Opacity of each copy, relative to the one before</source><translation>Deckkraft jeder Kopie, bezogen auf die davor</translation></message>
    <message><source>Opacity of the shadow</source><translation>Deckkraft des Schattens</translation></message>
    <message><source>Open a locked-off shot; the take then moves it.</source><translation>Eine Aufnahme vom Stativ öffnen; der Take bewegt sie dann.</translation></message>
    <message><source>Open footage</source><translation>Material öffnen</translation></message>
    <message><source>Open footage or a project</source><translation>Material oder ein Projekt öffnen</translation></message>
    <message><source>Open footage or a project (Ctrl+O)</source><translation>Material oder ein Projekt öffnen (Strg+O)</translation></message>
    <message><source>Open recent</source><translation>Zuletzt benutzt</translation></message>
    <message><source>Open some footage first; a preset then moves it.</source><translation>Zuerst Material öffnen; eine Vorlage bewegt es dann.</translation></message>
    <message><source>Open some footage first; a sound then goes with it.</source><translation>Zuerst Material öffnen; ein Ton gehört dann dazu.</translation></message>
    <message><source>Open some footage first; a span then lies over it.</source><translation>Zuerst Material öffnen; eine Spanne liegt dann darüber.</translation></message>
    <message><source>Open some footage first; a strand then moves it.</source><translation>Zuerst Material öffnen; ein Strang bewegt es dann.</translation></message>
    <message><source>Open some footage first; graphics then lie over it.</source><translation>Zuerst Material öffnen; Grafik liegt dann darüber.</translation></message>
    <message><source>Open some footage first; there is nothing to render yet.</source><translation>Zuerst Material öffnen; noch gibt es nichts zu rendern.</translation></message>
    <message><source>Open the demo</source><translation>Die Demo öffnen</translation></message>
    <message><source>Open {0}</source><translation>{0} öffnen</translation></message>
    <message><source>Open {0} files</source><translation>{0} Dateien öffnen</translation></message>
    <message><source>OpenColorIO file whose colour spaces footage may have; $OCIO comes first</source><translation>OpenColorIO-Datei, deren Farbräume Material haben kann; $OCIO geht vor</translation></message>
    <message><source>Opening…</source><translation>Öffnet…</translation></message>
    <message><source>Open…</source><translation>Öffnen…</translation></message>
    <message><source>Opposed</source><translation>Gegenläufig</translation></message>
    <message><source>Or ask</source><translation>Oder fragen</translation></message>
    <message><source>Other footage for the shot</source><translation>Anderes Material für die Einstellung</translation></message>
    <message><source>Out of focus at hits</source><translation>Unschärfe bei Schlägen</translation></message>
    <message><source>Outline</source><translation>Umriss</translation></message>
    <message><source>Outside of it instead</source><translation>Stattdessen außerhalb</translation></message>
    <message><source>Over and over</source><translation>Immer wieder</translation></message>
    <message><source>Over which it fades, percent of frame height</source><translation>Worüber er verblasst, Prozent der Bildhöhe</translation></message>
    <message><source>Overlay</source><translation>Überlagern</translation></message>
    <message><source>Overscan</source><translation>Überstand</translation></message>
    <message><source>Own</source><translation>Eigene</translation></message>
    <message><source>Own shake</source><translation>Eigenes Wackeln</translation></message>
    <message><source>P chooses another shake.</source><translation>P wählt ein anderes Wackeln.</translation></message>
    <message><source>P3 PQ</source><translation>P3 PQ</translation></message>
    <message><source>PNG pictures</source><translation>PNG-Bilder</translation></message>
    <message><source>Pace</source><translation>Tempo</translation></message>
    <message><source>Page</source><translation>Seite</translation></message>
    <message><source>Pages</source><translation>Seiten</translation></message>
    <message><source>Pan</source><translation>Schwenk</translation></message>
    <message><source>Pan reach</source><translation>Schwenk, Ausschlag</translation></message>
    <message><source>Panel</source><translation>Bedienfeld</translation></message>
    <message><source>Panel at full height</source><translation>Bedienfeld in voller Höhe</translation></message>
    <message><source>Panes answering a blow: many high partials, none held long.</source><translation>Scheiben, die auf einen Schlag antworten: viele hohe Teiltöne, keiner lange.</translation></message>
    <message><source>Paper</source><translation>Papier</translation></message>
    <message><source>Parts</source><translation>Teile</translation></message>
    <message><source>Past its end</source><translation>Nach seinem Ende</translation></message>
    <message><source>Paste shake</source><translation>Wackeln einfügen</translation></message>
    <message><source>Paste {0} keys</source><translation>Keyframes für {0} einfügen</translation></message>
    <message><source>Pasted</source><translation>Geklebt</translation></message>
    <message><source>Pasted to {0}.</source><translation>Eingefügt in {0}.</translation></message>
    <message><source>Path of the frame</source><translation>Weg des Bilds</translation></message>
    <message><source>Path of the frame's centre</source><translation>Weg der Bildmitte</translation></message>
    <message><source>Path of the take</source><translation>Weg des Takes</translation></message>
    <message><source>Peak</source><translation>Spitze</translation></message>
    <message><source>People moving on boards: a soft bed near 60 Hz that follows every step; our estimate.</source><translation>Menschen auf Brettern: ein weiches Bett bei 60 Hz, das jedem Schritt folgt; eigene Schätzung.</translation></message>
    <message><source>Percent of frame height</source><translation>Prozent der Bildhöhe</translation></message>
    <message><source>Percent of frame height below the middle</source><translation>Prozent der Bildhöhe unter der Mitte</translation></message>
    <message><source>Percent of frame height right of the middle</source><translation>Prozent der Bildhöhe rechts der Mitte</translation></message>
    <message><source>Percent of the frame's height</source><translation>Prozent der Bildhöhe</translation></message>
    <message><source>Percent of the frame's height, at a hit of strength 1</source><translation>Prozent der Bildhöhe, bei einem Schlag der Wucht 1</translation></message>
    <message><source>Percent of what was measured; below 0 is opposed</source><translation>Prozent des Gemessenen; unter 0 ist gegenläufig</translation></message>
    <message><source>Phase</source><translation>Phase</translation></message>
    <message><source>Phone, walking</source><translation>Telefon, gehend</translation></message>
    <message><source>Picture</source><translation>Bild</translation></message>
    <message><source>Picture (*.png)</source><translation>Bild (*.png)</translation></message>
    <message><source>Picture – Young Tremor</source><translation>Bild – Young Tremor</translation></message>
    <message><source>Pictures kept ready</source><translation>Bereitgehaltene Bilder</translation></message>
    <message><source>Pitch</source><translation>Tonhöhe</translation></message>
    <message><source>Pitch of the ringing body</source><translation>Tonhöhe des klingenden Körpers</translation></message>
    <message><source>Pivot</source><translation>Drehpunkt</translation></message>
    <message><source>Pivot X</source><translation>Drehpunkt X</translation></message>
    <message><source>Pivot Y</source><translation>Drehpunkt Y</translation></message>
    <message><source>Pivot on the picture</source><translation>Drehpunkt auf dem Bild</translation></message>
    <message><source>Pixel for pixel</source><translation>Pixel für Pixel</translation></message>
    <message><source>Pixel for pixel (100 %)</source><translation>Pixel für Pixel (100 %)</translation></message>
    <message><source>Pixel for pixel, or as large as fits (Ctrl+1, Ctrl+0); Ctrl and the wheel zoom</source><translation>Pixel für Pixel oder so groß, wie es passt (Strg+1, Strg+0); Strg und Rad zoomen</translation></message>
    <message><source>Pixels of the delivery; a larger source is reserve for the crop</source><translation>Pixel der Auslieferung; größeres Material ist Reserve für den Beschnitt</translation></message>
    <message><source>Place</source><translation>Ort</translation></message>
    <message><source>Place across</source><translation>Ort quer</translation></message>
    <message><source>Place angle</source><translation>Winkel des Orts</translation></message>
    <message><source>Place down</source><translation>Ort abwärts</translation></message>
    <message><source>Place size</source><translation>Größe am Ort</translation></message>
    <message><source>Placement</source><translation>Platzierung</translation></message>
    <message><source>Placement key</source><translation>Keyframe der Platzierung</translation></message>
    <message><source>Plate off</source><translation>Ebene aus</translation></message>
    <message><source>Plate on</source><translation>Ebene an</translation></message>
    <message><source>Plate {0}</source><translation>Ebene {0}</translation></message>
    <message><source>Plate: {0}</source><translation>Ebene: {0}</translation></message>
    <message><source>Plates</source><translation>Ebenen</translation></message>
    <message><source>Play or stop</source><translation>Abspielen oder anhalten</translation></message>
    <message><source>Play or stop (Space)</source><translation>Abspielen oder anhalten (Leertaste)</translation></message>
    <message><source>Plays everywhere</source><translation>Läuft überall</translation></message>
    <message><source>Plot</source><translation>Setzen</translation></message>
    <message><source>Plot a move</source><translation>Bewegung setzen</translation></message>
    <message><source>Plot a scale</source><translation>Skalierung setzen</translation></message>
    <message><source>Plot a turn</source><translation>Drehung setzen</translation></message>
    <message><source>Plotted</source><translation>Gesetzt</translation></message>
    <message><source>Plus or minus this, in the curve's unit</source><translation>Plus oder minus so viel, in der Einheit der Kurve</translation></message>
    <message><source>Positions per second, each held; 0 is none</source><translation>Orte je Sekunde, jeder gehalten; 0 ist keiner</translation></message>
    <message><source>Preferences</source><translation>Vorgaben</translation></message>
    <message><source>Preferences…</source><translation>Vorgaben…</translation></message>
    <message><source>Premultiplied</source><translation>Vormultipliziert</translation></message>
    <message><source>Preset</source><translation>Vorlage</translation></message>
    <message><source>Preset applied to new footage</source><translation>Vorlage für neues Material</translation></message>
    <message><source>Preset of new footage</source><translation>Vorlage für neues Material</translation></message>
    <message><source>Preset of the span</source><translation>Vorlage der Spanne</translation></message>
    <message><source>Preset thumbnails do not move</source><translation>Vorschauen der Vorlagen bewegen sich nicht</translation></message>
    <message><source>Presets</source><translation>Vorlagen</translation></message>
    <message><source>Presets (*.json)</source><translation>Vorlagen (*.json)</translation></message>
    <message><source>Presets: all</source><translation>Vorlagen: alle</translation></message>
    <message><source>Presets: favourites</source><translation>Vorlagen: Favoriten</translation></message>
    <message><source>Presets: film</source><translation>Vorlagen: Film</translation></message>
    <message><source>Presets: graphics</source><translation>Vorlagen: Grafik</translation></message>
    <message><source>Presets: ground</source><translation>Vorlagen: Boden</translation></message>
    <message><source>Presets: held</source><translation>Vorlagen: aus der Hand</translation></message>
    <message><source>Presets: impact</source><translation>Vorlagen: Aufschlag</translation></message>
    <message><source>Presets: own</source><translation>Vorlagen: eigene</translation></message>
    <message><source>Presets: sea</source><translation>Vorlagen: See</translation></message>
    <message><source>Presets: vehicle</source><translation>Vorlagen: Fahrzeug</translation></message>
    <message><source>Presets…</source><translation>Vorlagen…</translation></message>
    <message><source>Press strike</source><translation>Pressenschlag</translation></message>
    <message><source>Presses through a workshop floor: a held 50 Hz with orders over a duller bed</source><translation>Pressen durch einen Werkstattboden: gehaltene 50 Hz mit Ordnungen über einem dumpferen Bett</translation></message>
    <message><source>ProRes 422 HQ</source><translation>ProRes 422 HQ</translation></message>
    <message><source>ProRes 4444</source><translation>ProRes 4444</translation></message>
    <message><source>Progress</source><translation>Fortschritt</translation></message>
    <message><source>Project</source><translation>Projekt</translation></message>
    <message><source>Projects of late</source><translation>Letzte Projekte</translation></message>
    <message><source>Pulse</source><translation>Puls</translation></message>
    <message><source>Pulse at each hit</source><translation>Puls bei jedem Schlag</translation></message>
    <message><source>Put the playhead inside the shot: it is cut there.</source><translation>Den Abspielkopf in die Einstellung setzen: Dort wird sie geschnitten.</translation></message>
    <message><source>Put these hits on the ruler</source><translation>Diese Schläge auf das Lineal setzen</translation></message>
    <message><source>Quality</source><translation>Qualität</translation></message>
    <message><source>Quick</source><translation>Schnell</translation></message>
    <message><source>Quick, for larger files</source><translation>Schnell, für größere Dateien</translation></message>
    <message><source>Quit</source><translation>Beenden</translation></message>
    <message><source>REEL</source><translation>ROLLE</translation></message>
    <message><source>Radians a second</source><translation>Radiant je Sekunde</translation></message>
    <message><source>Ramp in over {0}</source><translation>Über {0} einsetzen</translation></message>
    <message><source>Ramp out over {0}</source><translation>Über {0} auslaufen</translation></message>
    <message><source>Random seed: another motion of the same kind</source><translation>Zufallswert: eine andere Bewegung derselben Art</translation></message>
    <message><source>Ransom note</source><translation>Erpresserbrief</translation></message>
    <message><source>Rate</source><translation>Frequenz</translation></message>
    <message><source>Rate and phase of pan</source><translation>Frequenz und Phase: Schwenk</translation></message>
    <message><source>Rate and phase of roll</source><translation>Frequenz und Phase: Rollen</translation></message>
    <message><source>Rate and phase of tilt</source><translation>Frequenz und Phase: Neigen</translation></message>
    <message><source>Rate and phase of x</source><translation>Frequenz und Phase: x</translation></message>
    <message><source>Rate and phase of y</source><translation>Frequenz und Phase: y</translation></message>
    <message><source>Rate and phase of zoom</source><translation>Frequenz und Phase: Zoom</translation></message>
    <message><source>Rate factor</source><translation>Frequenzfaktor</translation></message>
    <message><source>Rattle</source><translation>Klappern</translation></message>
    <message><source>Reach</source><translation>Ausschlag</translation></message>
    <message><source>Reach (95 %)</source><translation>Ausschlag (95 %)</translation></message>
    <message><source>Reach holds in</source><translation>Ausschlag gilt in</translation></message>
    <message><source>Reach of a hit of strength 1</source><translation>Ausschlag bei einem Schlag der Wucht 1</translation></message>
    <message><source>Read a file</source><translation>Datei lesen</translation></message>
    <message><source>Read a take</source><translation>Take lesen</translation></message>
    <message><source>Read motion</source><translation>Bewegung lesen</translation></message>
    <message><source>Ready shapes</source><translation>Fertige Formen</translation></message>
    <message><source>Ready shapes of the amount</source><translation>Fertige Formen der Stärke</translation></message>
    <message><source>Ready shapes of the level</source><translation>Fertige Formen des Pegels</translation></message>
    <message><source>Ready shapes of the {0}</source><translation>Fertige Formen: {0}</translation></message>
    <message><source>Rec. 2020</source><translation>Rec. 2020</translation></message>
    <message><source>Rec. 2100 HLG</source><translation>Rec. 2100 HLG</translation></message>
    <message><source>Rec. 2100 PQ</source><translation>Rec. 2100 PQ</translation></message>
    <message><source>Rec. 601, 525 lines</source><translation>Rec. 601, 525 Zeilen</translation></message>
    <message><source>Rec. 601, 625 lines</source><translation>Rec. 601, 625 Zeilen</translation></message>
    <message><source>Rec. 709</source><translation>Rec. 709</translation></message>
    <message><source>Recentre</source><translation>Neu zentrieren</translation></message>
    <message><source>Rectangle</source><translation>Rechteck</translation></message>
    <message><source>Redo</source><translation>Wiederholen</translation></message>
    <message><source>Redone: {0}</source><translation>Wiederholt: {0}</translation></message>
    <message><source>Reel</source><translation>Rolle</translation></message>
    <message><source>Reel's</source><translation>Rolle:</translation></message>
    <message><source>Reel's rate</source><translation>Rate der Rolle</translation></message>
    <message><source>Reel's size</source><translation>Größe der Rolle</translation></message>
    <message><source>Region</source><translation>Bereich</translation></message>
    <message><source>Region across</source><translation>Bereich quer</translation></message>
    <message><source>Region down</source><translation>Bereich abwärts</translation></message>
    <message><source>Region height</source><translation>Bereichshöhe</translation></message>
    <message><source>Region width</source><translation>Bereichsbreite</translation></message>
    <message><source>Regularity</source><translation>Gleichmaß</translation></message>
    <message><source>Release</source><translation>Loslassen</translation></message>
    <message><source>Remove</source><translation>Entfernen</translation></message>
    <message><source>Remove all hits</source><translation>Alle Schläge entfernen</translation></message>
    <message><source>Remove all keys</source><translation>Alle Keyframes entfernen</translation></message>
    <message><source>Remove boxes</source><translation>Kästen entfernen</translation></message>
    <message><source>Remove from the reel</source><translation>Aus der Rolle entfernen</translation></message>
    <message><source>Remove its own shake</source><translation>Eigenes Wackeln entfernen</translation></message>
    <message><source>Remove plate</source><translation>Ebene entfernen</translation></message>
    <message><source>Remove shape</source><translation>Form entfernen</translation></message>
    <message><source>Remove shot</source><translation>Einstellung entfernen</translation></message>
    <message><source>Remove shots</source><translation>Einstellungen entfernen</translation></message>
    <message><source>Remove sound</source><translation>Ton entfernen</translation></message>
    <message><source>Remove span</source><translation>Spanne entfernen</translation></message>
    <message><source>Remove the keep-clear boxes</source><translation>Die freizuhaltenden Kästen entfernen</translation></message>
    <message><source>Remove this sound</source><translation>Diesen Ton entfernen</translation></message>
    <message><source>Removed {0} of {1}. Ctrl+Z brings it back.</source><translation>{0} von {1} entfernt. Strg+Z holt es zurück.</translation></message>
    <message><source>Rename</source><translation>Umbenennen</translation></message>
    <message><source>Rename shot</source><translation>Einstellung umbenennen</translation></message>
    <message><source>Rename sound</source><translation>Ton umbenennen</translation></message>
    <message><source>Rename span</source><translation>Spanne umbenennen</translation></message>
    <message><source>Rename strand</source><translation>Strang umbenennen</translation></message>
    <message><source>Render</source><translation>Rendern</translation></message>
    <message><source>Render later, with the others</source><translation>Später rendern, mit den anderen</translation></message>
    <message><source>Render on the cluster set in the preferences</source><translation>Auf dem Cluster der Vorgaben rendern</translation></message>
    <message><source>Render this shot (Ctrl+R)</source><translation>Diese Einstellung rendern (Strg+R)</translation></message>
    <message><source>Render to</source><translation>Rendern nach</translation></message>
    <message><source>Rendered again when its content changes</source><translation>Wird neu gerendert, wenn sich sein Inhalt ändert</translation></message>
    <message><source>Render…</source><translation>Rendern…</translation></message>
    <message><source>Repeat</source><translation>Wiederholen</translation></message>
    <message><source>Repeat hit</source><translation>Schlag wiederholen</translation></message>
    <message><source>Repeat to the end</source><translation>Bis zum Ende wiederholen</translation></message>
    <message><source>Replace</source><translation>Ersetzen</translation></message>
    <message><source>Replace footage</source><translation>Material ersetzen</translation></message>
    <message><source>Replace footage…</source><translation>Material ersetzen…</translation></message>
    <message><source>Replace it anyway? The file there now is kept as a copy.</source><translation>Trotzdem ersetzen? Die jetzige Datei bleibt als Kopie erhalten.</translation></message>
    <message><source>Replace it? The file there now is kept as a copy.</source><translation>Ersetzen? Die jetzige Datei bleibt als Kopie erhalten.</translation></message>
    <message><source>Reset</source><translation>Zurücksetzen</translation></message>
    <message><source>Reset strand</source><translation>Strang zurücksetzen</translation></message>
    <message><source>Reset to its preset</source><translation>Auf die Vorlage zurücksetzen</translation></message>
    <message><source>Reset to {0}</source><translation>Auf {0} zurücksetzen</translation></message>
    <message><source>Restore the default shortcut</source><translation>Das ursprüngliche Tastenkürzel wiederherstellen</translation></message>
    <message><source>Rests</source><translation>Ruht</translation></message>
    <message><source>Return does it, Esc closes</source><translation>Eingabe führt aus, Esc schließt</translation></message>
    <message><source>Reverb time: seconds to −60 dB</source><translation>Nachhallzeit: Sekunden bis −60 dB</translation></message>
    <message><source>Ride</source><translation>Fahrt</translation></message>
    <message><source>Rides</source><translation>Fährt</translation></message>
    <message><source>Right</source><translation>Rechts</translation></message>
    <message><source>Right of the middle, percent of frame height</source><translation>Rechts der Mitte, Prozent der Bildhöhe</translation></message>
    <message><source>Ring</source><translation>Klang</translation></message>
    <message><source>Rise</source><translation>Steigt</translation></message>
    <message><source>Rise to here</source><translation>Bis hier steigen</translation></message>
    <message><source>Roll</source><translation>Rollen</translation></message>
    <message><source>Roll at 0.11 Hz and pitch at 0.18 Hz, nearly sinusoidal with drifting size</source><translation>Rollen mit 0,11 Hz und Stampfen mit 0,18 Hz, fast sinusförmig mit wandernder Größe</translation></message>
    <message><source>Roll gain</source><translation>Rollen, Anteil</translation></message>
    <message><source>Roll here</source><translation>Rollen hier</translation></message>
    <message><source>Roll reach</source><translation>Rollen, Ausschlag</translation></message>
    <message><source>Rolling ground</source><translation>Rollender Boden</translation></message>
    <message><source>Rolling shutter</source><translation>Rolling Shutter</translation></message>
    <message><source>Rolls and dies slowly</source><translation>Rollt und vergeht langsam</translation></message>
    <message><source>Room</source><translation>Raum</translation></message>
    <message><source>Room's length</source><translation>Länge des Raums</translation></message>
    <message><source>Rotor</source><translation>Rotor</translation></message>
    <message><source>Rough road, on a bike</source><translation>Holprige Straße, auf dem Rad</translation></message>
    <message><source>Roughness</source><translation>Rauheit</translation></message>
    <message><source>Rows</source><translation>Zeilen</translation></message>
    <message><source>Rule</source><translation>Regel</translation></message>
    <message><source>Rumble</source><translation>Grollen</translation></message>
    <message><source>Running</source><translation>Rennend</translation></message>
    <message><source>Runs</source><translation>Läuft</translation></message>
    <message><source>S-Log3 S-Gamut3</source><translation>S-Log3 S-Gamut3</translation></message>
    <message><source>S-Log3 S-Gamut3.Cine</source><translation>S-Log3 S-Gamut3.Cine</translation></message>
    <message><source>SOUND</source><translation>TON</translation></message>
    <message><source>SOUND SWAY</source><translation>TONSCHWANKEN</translation></message>
    <message><source>ST maps</source><translation>ST-Maps</translation></message>
    <message><source>Safe areas (EBU R 95)</source><translation>Sichere Bereiche (EBU R 95)</translation></message>
    <message><source>Safe areas, thirds and more over the picture</source><translation>Sichere Bereiche, Drittel und mehr über dem Bild</translation></message>
    <message><source>Save</source><translation>Speichern</translation></message>
    <message><source>Save a framing guide</source><translation>Kadrierhilfe speichern</translation></message>
    <message><source>Save as preset</source><translation>Als Vorlage speichern</translation></message>
    <message><source>Save as preset…</source><translation>Als Vorlage speichern…</translation></message>
    <message><source>Save as…</source><translation>Speichern unter…</translation></message>
    <message><source>Save it for all projects; your own preset of the same name is replaced</source><translation>Für alle Projekte speichern; eine eigene Vorlage desselben Namens wird ersetzt</translation></message>
    <message><source>Save project</source><translation>Projekt speichern</translation></message>
    <message><source>Save the changes to this project?</source><translation>Die Änderungen an diesem Projekt speichern?</translation></message>
    <message><source>Saved as {0} in {1}.</source><translation>Als {0} in {1} gespeichert.</translation></message>
    <message><source>Saved from the span “{0}”.</source><translation>Aus der Spanne „{0}“ gespeichert.</translation></message>
    <message><source>Saved from “{0}”, a shake of your own, made at {1:g} mm.</source><translation>Aus „{0}“ gespeichert, eigenes Wackeln, bei {1:g} mm gemacht.</translation></message>
    <message><source>Scale</source><translation>Skalierung</translation></message>
    <message><source>Scale axes</source><translation>Achsen skalieren</translation></message>
    <message><source>Scale plate</source><translation>Ebene skalieren</translation></message>
    <message><source>Scale the chosen keys</source><translation>Die gewählten Keyframes skalieren</translation></message>
    <message><source>Scale the intensity so that this crop is enough and every keep-clear box stays in</source><translation>Die Intensität so weit senken, dass dieser Beschnitt genügt und jeder freizuhaltende Kasten im Bild bleibt</translation></message>
    <message><source>Scale {0} keys</source><translation>Keyframes für {0} skalieren</translation></message>
    <message><source>Scatter</source><translation>Streuung</translation></message>
    <message><source>Scatter keys</source><translation>Keyframes streuen</translation></message>
    <message><source>Screen</source><translation>Bildschirm</translation></message>
    <message><source>Sea</source><translation>See</translation></message>
    <message><source>Search presets</source><translation>Vorlagen suchen</translation></message>
    <message><source>Seat</source><translation>Sitz</translation></message>
    <message><source>Seated, elbows resting</source><translation>Sitzend, Ellbogen aufgelegt</translation></message>
    <message><source>Seconds</source><translation>Sekunden</translation></message>
    <message><source>Seconds after the shot's beginning at which its own time begins</source><translation>Sekunden nach dem Anfang der Einstellung, bei denen seine Zeit beginnt</translation></message>
    <message><source>Seconds from one copy to the next</source><translation>Sekunden von einer Kopie zur nächsten</translation></message>
    <message><source>Seconds of the shot at which it begins</source><translation>Sekunden der Einstellung, bei denen es beginnt</translation></message>
    <message><source>Seconds of this shot over which 95 % of the motion stays within the reach; 0: over all time</source><translation>Sekunden dieser Einstellung, über die 95 % der Bewegung im Ausschlag bleiben; 0: über alle Zeit</translation></message>
    <message><source>Seconds of work after which a copy is saved</source><translation>Sekunden Arbeit, nach denen eine Kopie gesichert wird</translation></message>
    <message><source>Seconds to fade in</source><translation>Sekunden zum Einblenden</translation></message>
    <message><source>Seconds to fade out</source><translation>Sekunden zum Ausblenden</translation></message>
    <message><source>See along with it</source><translation>Zugleich ansehen</translation></message>
    <message><source>Seed</source><translation>Zufallswert</translation></message>
    <message><source>Seeded keys on the edited curve, over the marked stretch or the shot</source><translation>Zufällige Keyframes auf der bearbeiteten Kurve, im markierten Abschnitt oder der ganzen Einstellung</translation></message>
    <message><source>Set a key at the playhead</source><translation>Am Abspielkopf einen Keyframe setzen</translation></message>
    <message><source>Set key</source><translation>Keyframe setzen</translation></message>
    <message><source>Set.</source><translation>Gesetzt.</translation></message>
    <message><source>Settle</source><translation>Ausklingen</translation></message>
    <message><source>Shadow</source><translation>Schatten</translation></message>
    <message><source>Shake</source><translation>Wackeln</translation></message>
    <message><source>Shake of its own</source><translation>Eigenes Wackeln</translation></message>
    <message><source>Shake of “{0}” copied: choose shots and paste it.</source><translation>Wackeln von „{0}“ kopiert: Einstellungen wählen und einfügen.</translation></message>
    <message><source>Shaken</source><translation>Bewegt</translation></message>
    <message><source>Shaken and clean</source><translation>Bewegt und ruhig</translation></message>
    <message><source>Shape</source><translation>Form</translation></message>
    <message><source>Shape it over time</source><translation>Über die Zeit formen</translation></message>
    <message><source>Shape of the depth</source><translation>Form der Tiefe</translation></message>
    <message><source>Shape the {0} over time</source><translation>Über die Zeit formen: {0}</translation></message>
    <message><source>Shape {0}</source><translation>{0} formen</translation></message>
    <message><source>Shapes</source><translation>Formen</translation></message>
    <message><source>Share</source><translation>Anteil</translation></message>
    <message><source>Share between machines</source><translation>Zwischen Rechnern teilen</translation></message>
    <message><source>Share of frames that would show an edge if nothing were done</source><translation>Anteil der Bilder, die einen Rand zeigten, wenn nichts getan würde</translation></message>
    <message><source>Share of overtones</source><translation>Anteil der Obertöne</translation></message>
    <message><source>Share of the motion that dies away four times as slowly</source><translation>Anteil der Bewegung, der viermal so langsam abklingt</translation></message>
    <message><source>Share of the time in which it holds still</source><translation>Anteil der Zeit, in dem es stillhält</translation></message>
    <message><source>Shift</source><translation>Verschiebung</translation></message>
    <message><source>Shimmer</source><translation>Flimmern</translation></message>
    <message><source>Ship in a swell</source><translation>Schiff in der Dünung</translation></message>
    <message><source>Shipped fonts, installed fonts, or a font file</source><translation>Mitgelieferte Schriften, installierte Schriften oder eine Schriftdatei</translation></message>
    <message><source>Shiver</source><translation>Frösteln</translation></message>
    <message><source>Shivering: small, quick and tight, in bursts with rests between, hardly any turn</source><translation>Frösteln: klein, schnell und eng, in Schüben mit Pausen, kaum Drehung</translation></message>
    <message><source>Shooting margin</source><translation>Drehreserve</translation></message>
    <message><source>Short wheelbase on welded rail: lateral hunting at 1.8 Hz in bouts, roar of 14 Hz in the floor, starts and stops in the slow sway</source><translation>Kurzer Radstand auf geschweißter Schiene: seitliches Schlingern mit 1,8 Hz in Schüben, Dröhnen von 14 Hz im Boden, Anfahren und Halten im langsamen Schwanken</translation></message>
    <message><source>Shot</source><translation>Einstellung</translation></message>
    <message><source>Shot after</source><translation>Einstellung danach</translation></message>
    <message><source>Shot before</source><translation>Einstellung davor</translation></message>
    <message><source>Shot {0}, {1}</source><translation>Einstellung {0}, {1}</translation></message>
    <message><source>Shots</source><translation>Einstellungen</translation></message>
    <message><source>Shoulder rig</source><translation>Schulterkamera</translation></message>
    <message><source>Show all hints again</source><translation>Alle Hinweise wieder zeigen</translation></message>
    <message><source>Show the menus</source><translation>Die Menüs zeigen</translation></message>
    <message><source>Show the row of</source><translation>Zeile zeigen für</translation></message>
    <message><source>Show the whole of it</source><translation>Alles davon zeigen</translation></message>
    <message><source>Show times as frames, not as seconds and timecode</source><translation>Zeiten als Bilder zeigen, nicht als Sekunden und Timecode</translation></message>
    <message><source>Shutter</source><translation>Verschluss</translation></message>
    <message><source>Shutter and blur</source><translation>Verschluss und Unschärfe</translation></message>
    <message><source>Shutter angle</source><translation>Verschlusswinkel</translation></message>
    <message><source>Sits</source><translation>Sitzt</translation></message>
    <message><source>Size</source><translation>Größe</translation></message>
    <message><source>Skin</source><translation>Fell</translation></message>
    <message><source>Slip</source><translation>Rutschen</translation></message>
    <message><source>Slipping claw: mostly vertical, quiet for seconds, then a bout of jumps at 8 a second</source><translation>Rutschender Greifer: meist senkrecht, sekundenlang ruhig, dann Sprünge mit 8 je Sekunde</translation></message>
    <message><source>Slope</source><translation>Steigung</translation></message>
    <message><source>Slow part</source><translation>Langsamer Teil</translation></message>
    <message><source>Slow weightless drift with a surge every six seconds; no tremor at all</source><translation>Langsames schwereloses Treiben mit einem Schub alle sechs Sekunden; gar kein Zittern</translation></message>
    <message><source>Small</source><translation>Klein</translation></message>
    <message><source>Small boat</source><translation>Kleines Boot</translation></message>
    <message><source>Small fast first arrivals at 6 Hz, then 1 to 4 Hz, stronger, some seconds later; horizontal over vertical</source><translation>Kleine schnelle erste Ankünfte mit 6 Hz, dann 1 bis 4 Hz, stärker, einige Sekunden später; waagerecht über senkrecht</translation></message>
    <message><source>Small files, slowly</source><translation>Kleine Dateien, langsam</translation></message>
    <message><source>Smear</source><translation>Verwischen</translation></message>
    <message><source>Smear at hits</source><translation>Verwischen bei Schlägen</translation></message>
    <message><source>Smooth</source><translation>Glatt</translation></message>
    <message><source>Soft fill</source><translation>Weich füllen</translation></message>
    <message><source>Softness</source><translation>Weichheit</translation></message>
    <message><source>Solo</source><translation>Solo</translation></message>
    <message><source>Somebody holds their first camera and trembles: the central 8 to 12 Hz part and the hand's own, four times as large</source><translation>Jemand hält die erste Kamera und zittert: der zentrale Teil von 8 bis 12 Hz und der der Hand, viermal so groß</translation></message>
    <message><source>Somebody runs into the stand: a sideways push, the legs ring at 5 Hz and settle in under a second, with a turn</source><translation>Jemand läuft in das Stativ: ein Stoß von der Seite, die Beine schwingen mit 5 Hz und beruhigen sich in weniger als einer Sekunde, mit einer Drehung</translation></message>
    <message><source>Somebody stands on a small boat's deck: legs and arms take most of the chop, roll and a slow heave stay, and balance works harder</source><translation>Jemand steht auf dem Deck eines kleinen Boots: Beine und Arme fangen das meiste ab, Rollen und langsames Heben bleiben, und das Gleichgewicht hat mehr zu tun</translation></message>
    <message><source>Something heavy dropped: mainly vertical, 13 Hz, gone in a fifth of a second</source><translation>Etwas Schweres fällt: meist senkrecht, 13 Hz, in einer Fünftelsekunde vorbei</translation></message>
    <message><source>Something soft and heavy on earth</source><translation>Etwas Weiches und Schweres auf Erde</translation></message>
    <message><source>Something strikes</source><translation>Etwas schlägt zu</translation></message>
    <message><source>Sound</source><translation>Ton</translation></message>
    <message><source>Sound (*.wav *.flac *.aif *.aiff *.mp3 *.m4a *.ogg *.opus *.mp4 *.mov);;All files (*)</source><translation>Ton (*.wav *.flac *.aif *.aiff *.mp3 *.m4a *.ogg *.opus *.mp4 *.mov);;Alle Dateien (*)</translation></message>
    <message><source>Sound by name</source><translation>Ton beim Namen</translation></message>
    <message><source>Sound device</source><translation>Tongerät</translation></message>
    <message><source>Sound file</source><translation>Tondatei</translation></message>
    <message><source>Sound file…</source><translation>Tondatei…</translation></message>
    <message><source>Sound of the span</source><translation>Ton der Spanne</translation></message>
    <message><source>Sound off</source><translation>Ton aus</translation></message>
    <message><source>Sound on</source><translation>Ton an</translation></message>
    <message><source>Sound sway</source><translation>Tonschwanken</translation></message>
    <message><source>Sound that goes with it</source><translation>Ton, der dazugehört</translation></message>
    <message><source>Sounds as WAV</source><translation>Töne als WAV</translation></message>
    <message><source>Source pixels per delivered pixel along a line</source><translation>Pixel des Materials je ausgeliefertem Pixel, entlang einer Linie</translation></message>
    <message><source>Span</source><translation>Spanne</translation></message>
    <message><source>Span over the chosen</source><translation>Spanne über den gewählten</translation></message>
    <message><source>Span over the chosen shots</source><translation>Spanne über den gewählten Einstellungen</translation></message>
    <message><source>Spans</source><translation>Spannen</translation></message>
    <message><source>Spectrum</source><translation>Spektrum</translation></message>
    <message><source>Speed</source><translation>Geschwindigkeit</translation></message>
    <message><source>Spike at the playhead</source><translation>Zacke am Abspielkopf</translation></message>
    <message><source>Split</source><translation>Teilen</translation></message>
    <message><source>Split at the playhead</source><translation>Am Abspielkopf teilen</translation></message>
    <message><source>Split shot</source><translation>Einstellung teilen</translation></message>
    <message><source>Spread</source><translation>Breite</translation></message>
    <message><source>Springs</source><translation>Federn</translation></message>
    <message><source>Springs as on the road, kicked about: bounce near 1.6 Hz, wheel hop at 11 Hz in bursts, high kurtosis</source><translation>Federn wie auf der Straße, herumgestoßen: Hüpfen bei 1,6 Hz, Radspringen mit 11 Hz in Schüben, hohe Wölbung</translation></message>
    <message><source>Stage floor</source><translation>Bühnenboden</translation></message>
    <message><source>Stand in the wind</source><translation>Stativ im Wind</translation></message>
    <message><source>Stand knocked</source><translation>Angestoßenes Stativ</translation></message>
    <message><source>Standing out of breath: forty breaths a minute, four times as deep, height and tilt together; a fast pulse, arms giving way</source><translation>Stehend, außer Atem: vierzig Atemzüge in der Minute, viermal so tief, Höhe und Neigung zusammen; schneller Puls, nachgebende Arme</translation></message>
    <message><source>Standing, breathing</source><translation>Stehend, atmend</translation></message>
    <message><source>Standing, with corrections of framing: the hand moves on in a push of half a second or so, a few times in ten seconds, then is steadier</source><translation>Stehend, mit Korrekturen des Ausschnitts: Die Hand rückt in einem Schub von etwa einer halben Sekunde weiter, einige Male in zehn Sekunden, und ist dann ruhiger</translation></message>
    <message><source>Stands</source><translation>Steht</translation></message>
    <message><source>Start</source><translation>Start</translation></message>
    <message><source>Start the list</source><translation>Die Liste starten</translation></message>
    <message><source>Starting</source><translation>Beginnt</translation></message>
    <message><source>Starts at hits, less at each further one</source><translation>Beginnt bei Schlägen, bei jedem weiteren weniger</translation></message>
    <message><source>Step after a drag</source><translation>Schritt nach dem Ziehen</translation></message>
    <message><source>Step size</source><translation>Schrittgröße</translation></message>
    <message><source>Steps</source><translation>Schritte</translation></message>
    <message><source>Steps run free</source><translation>Schritte laufen frei</translation></message>
    <message><source>Still</source><translation>Ruhig</translation></message>
    <message><source>Still at first</source><translation>Anfangs ruhig</translation></message>
    <message><source>Still up to here</source><translation>Ruhig bis hier</translation></message>
    <message><source>Stillness</source><translation>Stille</translation></message>
    <message><source>Stop</source><translation>Stopp</translation></message>
    <message><source>Stop and close</source><translation>Anhalten und schließen</translation></message>
    <message><source>Stop it and close? Unfinished files will be discarded.</source><translation>Anhalten und schließen? Unfertige Dateien werden verworfen.</translation></message>
    <message><source>Stop the delivery shown here; the others go on</source><translation>Die hier gezeigte Auslieferung anhalten; die anderen laufen weiter</translation></message>
    <message><source>Stop-motion</source><translation>Stop-Motion</translation></message>
    <message><source>Straight</source><translation>Gerade</translation></message>
    <message><source>Strand</source><translation>Strang</translation></message>
    <message><source>Strand name</source><translation>Name des Strangs</translation></message>
    <message><source>Strand off</source><translation>Strang aus</translation></message>
    <message><source>Strand on</source><translation>Strang an</translation></message>
    <message><source>Strands</source><translation>Stränge</translation></message>
    <message><source>Strength</source><translation>Wucht</translation></message>
    <message><source>Strides</source><translation>Laufschritte</translation></message>
    <message><source>Strong inks on the paper</source><translation>Kräftige Farben auf dem Papier</translation></message>
    <message><source>Subtracted from hits tapped in during playback</source><translation>Wird von Schlägen abgezogen, die beim Abspielen getippt werden</translation></message>
    <message><source>Surge</source><translation>Schub</translation></message>
    <message><source>Sway</source><translation>Schwanken</translation></message>
    <message><source>Swell</source><translation>Dünung</translation></message>
    <message><source>Swell and fall over {0}</source><translation>Über {0} anschwellen und fallen</translation></message>
    <message><source>Swell around here</source><translation>Um hier anschwellen</translation></message>
    <message><source>Swells</source><translation>Wogen</translation></message>
    <message><source>Swings per second (frequency)</source><translation>Schwingungen je Sekunde (Frequenz)</translation></message>
    <message><source>Swings per second (frequency), roughness included</source><translation>Schwingungen je Sekunde (Frequenz), Rauheit inbegriffen</translation></message>
    <message><source>TIFF pictures, 16 bit</source><translation>TIFF-Bilder, 16 Bit</translation></message>
    <message><source>Tail</source><translation>Ausklang</translation></message>
    <message><source>Take</source><translation>Take</translation></message>
    <message><source>Take from</source><translation>Take von</translation></message>
    <message><source>Take it out of the project, or of the library</source><translation>Aus dem Projekt oder der Bibliothek nehmen</translation></message>
    <message><source>Take its lens, edges and shutter</source><translation>Objektiv, Ränder und Verschluss übernehmen</translation></message>
    <message><source>Take off bias and slow drift</source><translation>Versatz und langsame Drift abziehen</translation></message>
    <message><source>Take the window's whole height</source><translation>Die ganze Höhe des Fensters nehmen</translation></message>
    <message><source>Take to</source><translation>Take bis</translation></message>
    <message><source>Takes</source><translation>Takes</translation></message>
    <message><source>Takes out what is slower (high-pass), half of it (−6 dB) at this length; 0 keeps the whole move</source><translation>Nimmt heraus, was langsamer ist (Hochpass), zur Hälfte (−6 dB) bei dieser Länge; 0 behält die ganze Bewegung</translation></message>
    <message><source>Takes…</source><translation>Takes…</translation></message>
    <message><source>Take…</source><translation>Take…</translation></message>
    <message><source>Text</source><translation>Text</translation></message>
    <message><source>Text of the title</source><translation>Text des Titels</translation></message>
    <message><source>Text, as one or letter by letter</source><translation>Text, als Ganzes oder Buchstabe für Buchstabe</translation></message>
    <message><source>The attack's hard edge (transient)</source><translation>Die harte Kante des Anschlags (Transiente)</translation></message>
    <message><source>The brightest of high range that is to be told apart in standard range, in cd/m² (ITU-R BT.2390)</source><translation>Das Hellste vom hohen Umfang, das im Standardumfang zu unterscheiden sein soll, in cd/m² (ITU-R BT.2390)</translation></message>
    <message><source>The chosen strand, or the one chosen last</source><translation>Der gewählte Strang oder der zuletzt gewählte</translation></message>
    <message><source>The colour space of the file</source><translation>Der Farbraum der Datei</translation></message>
    <message><source>The cut as .otio and .edl, with the films of each shot in place</source><translation>Der Schnitt als .otio und .edl, mit den Filmen jeder Einstellung an ihrer Stelle</translation></message>
    <message><source>The farthest that anything goes (amplitude)</source><translation>Der weiteste Weg überhaupt (Amplitude)</translation></message>
    <message><source>The focal length it was made for</source><translation>Die Brennweite, für die es gemacht wurde</translation></message>
    <message><source>The focal length it was made for, and edges and shutter if it was saved with them</source><translation>Die Brennweite, für die es gemacht wurde, und Ränder und Verschluss, falls sie mitgespeichert sind</translation></message>
    <message><source>The footage of “{0}” was changed on disk and is read anew.</source><translation>Das Material von „{0}“ wurde auf der Platte geändert und wird neu gelesen.</translation></message>
    <message><source>The footage’s own sound stays with it: its lamp turns it off.</source><translation>Der eigene Ton des Materials bleibt dabei: Seine Lampe schaltet ihn aus.</translation></message>
    <message><source>The frame in the panel</source><translation>Das Bild im Bedienfeld</translation></message>
    <message><source>The list is empty. Start renders at once;
Add to the list keeps it for later.</source><translation>Die Liste ist leer. Start rendert sofort;
In die Liste hebt es für später auf.</translation></message>
    <message><source>The list was left unfinished: {0} to render again.</source><translation>Die Liste blieb unfertig: {0} neu zu rendern.</translation></message>
    <message><source>The log folder cannot be written: errors will not be logged.</source><translation>Der Ordner für Protokolle ist nicht beschreibbar: Fehler werden nicht festgehalten.</translation></message>
    <message><source>The lowest plate alone</source><translation>Die unterste Ebene allein</translation></message>
    <message><source>The lowest plate is the footage. Replace it, or remove the shot.</source><translation>Die unterste Ebene ist das Material. Es ersetzen oder die Einstellung entfernen.</translation></message>
    <message><source>The lowest plate is the shot's footage: the others lie over it.</source><translation>Die unterste Ebene ist das Material der Einstellung: Die anderen liegen darüber.</translation></message>
    <message><source>The name may hold {shot}, {number}, {variant}, {project} and {date}</source><translation>Der Name kann {shot}, {number}, {variant}, {project} und {date} enthalten</translation></message>
    <message><source>The other thing that moves</source><translation>Das andere, das sich bewegt</translation></message>
    <message><source>The other way</source><translation>Andersherum</translation></message>
    <message><source>The plates in the panel</source><translation>Die Ebenen im Bedienfeld</translation></message>
    <message><source>The pressure front, the fireball's fall, the street answering</source><translation>Die Druckfront, das Fallen des Feuerballs, die Antwort der Straße</translation></message>
    <message><source>The reel</source><translation>Rolle</translation></message>
    <message><source>The same motion, in another course.</source><translation>Dieselbe Bewegung in einem anderen Verlauf.</translation></message>
    <message><source>The same spectrum and play of channels at any length, never the same twice</source><translation>Dasselbe Spektrum und Zusammenspiel der Kanäle in jeder Länge, nie zweimal dasselbe</translation></message>
    <message><source>The same stretch without shake and crop</source><translation>Derselbe Abschnitt ohne Wackeln und Beschnitt</translation></message>
    <message><source>The screen cannot show these colours as they are; what is delivered keeps them</source><translation>Der Bildschirm kann diese Farben nicht zeigen, wie sie sind; ausgeliefert werden sie unverändert</translation></message>
    <message><source>The shake</source><translation>Das Wackeln</translation></message>
    <message><source>The shaken picture (1)</source><translation>Das bewegte Bild (1)</translation></message>
    <message><source>The shot was changed meanwhile: press Limit once more.</source><translation>Die Einstellung wurde inzwischen geändert: noch einmal auf Begrenzen drücken.</translation></message>
    <message><source>The sound device is gone: playback continues without sound.</source><translation>Das Tongerät ist fort: Die Wiedergabe geht ohne Ton weiter.</translation></message>
    <message><source>The starting drift was replaced. Ctrl+Z brings it back.</source><translation>Die Drift vom Anfang wurde ersetzt. Strg+Z holt sie zurück.</translation></message>
    <message><source>The step of something huge: 3 Hz, a slow heave that sinks for a second</source><translation>Der Schritt von etwas Riesigem: 3 Hz, ein langsames Heben, das eine Sekunde lang sinkt</translation></message>
    <message><source>The still original (2); hold C to see it for a moment</source><translation>Das ruhige Original (2); C gedrückt halten zeigt es für einen Moment</translation></message>
    <message><source>The strand's name</source><translation>Der Name des Strangs</translation></message>
    <message><source>The strands of the shot (R)</source><translation>Die Stränge der Einstellung (R)</translation></message>
    <message><source>The take seen in a mirror</source><translation>Der Take im Spiegel gesehen</translation></message>
    <message><source>The usual one</source><translation>Wie üblich</translation></message>
    <message><source>The whole mix sways with the picture</source><translation>Die ganze Mischung schwankt mit dem Bild</translation></message>
    <message><source>The whole shake</source><translation>Ganzes Wackeln</translation></message>
    <message><source>There and back</source><translation>Hin und zurück</translation></message>
    <message><source>There is no hit after the playhead.</source><translation>Nach dem Abspielkopf gibt es keinen Schlag.</translation></message>
    <message><source>There is no hit before the playhead.</source><translation>Vor dem Abspielkopf gibt es keinen Schlag.</translation></message>
    <message><source>Thirds</source><translation>Drittel</translation></message>
    <message><source>This shot</source><translation>Einstellung</translation></message>
    <message><source>Thrown</source><translation>Geworfen</translation></message>
    <message><source>Thud at each hit</source><translation>Dumpfer Schlag bei jedem Schlag</translation></message>
    <message><source>Thud at each hit from a file…</source><translation>Dumpfer Schlag bei jedem Schlag aus einer Datei…</translation></message>
    <message><source>Thud at each hit from this file</source><translation>Dumpfer Schlag bei jedem Schlag aus dieser Datei</translation></message>
    <message><source>Tilt</source><translation>Neigen</translation></message>
    <message><source>Tilt reach</source><translation>Neigen, Ausschlag</translation></message>
    <message><source>Time</source><translation>Zeit</translation></message>
    <message><source>Time and colours</source><translation>Zeit und Farben</translation></message>
    <message><source>Time ruler</source><translation>Zeitlineal</translation></message>
    <message><source>Timeline</source><translation>Schnitt</translation></message>
    <message><source>Times in frames</source><translation>Zeiten in Bildern</translation></message>
    <message><source>Times the strand's rate; 0.5 is half as fast</source><translation>Mal der Frequenz des Strangs; 0,5 ist halb so schnell</translation></message>
    <message><source>Tired</source><translation>Müde</translation></message>
    <message><source>Tired arms</source><translation>Müde Arme</translation></message>
    <message><source>Title</source><translation>Titel</translation></message>
    <message><source>Title on twos</source><translation>Titel auf Zweiern</translation></message>
    <message><source>To</source><translation>Bis</translation></message>
    <message><source>To move like a real clip</source><translation>Bewegt wie ein echter Clip</translation></message>
    <message><source>To nothing, before its end</source><translation>Ins Nichts, vor seinem Ende</translation></message>
    <message><source>To one file…</source><translation>In eine Datei…</translation></message>
    <message><source>To the end</source><translation>Bis zum Ende</translation></message>
    <message><source>Today's rule</source><translation>Heutige Regel</translation></message>
    <message><source>Together</source><translation>Zusammen</translation></message>
    <message><source>Tone</source><translation>Ton</translation></message>
    <message><source>Trace</source><translation>Spur</translation></message>
    <message><source>Trace of {0}</source><translation>Spur: {0}</translation></message>
    <message><source>Tracking</source><translation>Laufweite</translation></message>
    <message><source>Train</source><translation>Zug</translation></message>
    <message><source>Train carriage</source><translation>Eisenbahnwagen</translation></message>
    <message><source>Tremor on top, up to 12 Hz</source><translation>Zittern darüber, bis 12 Hz</translation></message>
    <message><source>Trim shot</source><translation>Einstellung trimmen</translation></message>
    <message><source>Trimmed</source><translation>Abgeschnitten</translation></message>
    <message><source>Trot</source><translation>Trab</translation></message>
    <message><source>Turn plate</source><translation>Ebene drehen</translation></message>
    <message><source>Turned round in every channel</source><translation>In jedem Kanal umgekehrt</translation></message>
    <message><source>Turning</source><translation>Drehung</translation></message>
    <message><source>Twice as high</source><translation>Doppelt so hoch</translation></message>
    <message><source>Twice as long</source><translation>Doppelt so lang</translation></message>
    <message><source>Two hands</source><translation>Zwei Hände</translation></message>
    <message><source>Twos</source><translation>Zweier</translation></message>
    <message><source>Typed or dragged, it sets a key at the playhead (keyframe)</source><translation>Getippt oder gezogen, setzt es am Abspielkopf einen Keyframe</translation></message>
    <message><source>Unchanged, it is copied bit for bit with all tracks.</source><translation>Unverändert wird es Bit für Bit mit allen Spuren kopiert.</translation></message>
    <message><source>Under water</source><translation>Unter Wasser</translation></message>
    <message><source>Underground train</source><translation>U-Bahn</translation></message>
    <message><source>Understood</source><translation>Verstanden</translation></message>
    <message><source>Undo</source><translation>Rückgängig</translation></message>
    <message><source>Undone: {0}</source><translation>Rückgängig gemacht: {0}</translation></message>
    <message><source>Uneven</source><translation>Ungleich</translation></message>
    <message><source>Unit of time</source><translation>Zeiteinheit</translation></message>
    <message><source>Unit of turning</source><translation>Einheit der Drehung</translation></message>
    <message><source>Unsaved work cannot be backed up: {0} Save the project (Ctrl+S).</source><translation>Ungespeicherte Arbeit kann nicht gesichert werden: {0} Das Projekt speichern (Strg+S).</translation></message>
    <message><source>Unsaved work is backed up again.</source><translation>Ungespeicherte Arbeit wird wieder gesichert.</translation></message>
    <message><source>Untitled</source><translation>Ohne Namen</translation></message>
    <message><source>Up</source><translation>Nach oben</translation></message>
    <message><source>Update to today's rule</source><translation>Auf die heutige Regel bringen</translation></message>
    <message><source>Upright</source><translation>Aufrecht</translation></message>
    <message><source>Upside down</source><translation>Auf dem Kopf</translation></message>
    <message><source>Use on this shot</source><translation>Für diese Einstellung benutzen</translation></message>
    <message><source>Use the hardware encoder that works on this machine</source><translation>Den Hardware-Encoder benutzen, der auf diesem Rechner läuft</translation></message>
    <message><source>Use {0}</source><translation>{0} benutzen</translation></message>
    <message><source>Use {0} for a scene</source><translation>{0} für eine Szene benutzen</translation></message>
    <message><source>Usual</source><translation>Üblich</translation></message>
    <message><source>V-Log V-Gamut</source><translation>V-Log V-Gamut</translation></message>
    <message><source>VP9</source><translation>VP9</translation></message>
    <message><source>Value</source><translation>Wert</translation></message>
    <message><source>Variant</source><translation>Variante</translation></message>
    <message><source>Variant {0}</source><translation>Variante {0}</translation></message>
    <message><source>Variants</source><translation>Varianten</translation></message>
    <message><source>Variants of this shake: click to use one, + for a copy to go on with.
Right click compares.</source><translation>Varianten dieses Wackelns: klicken, um eine zu benutzen, + für eine Kopie zum Weiterarbeiten.
Rechtsklick vergleicht.</translation></message>
    <message><source>Vehicle</source><translation>Fahrzeug</translation></message>
    <message><source>Version of {0}</source><translation>Fassung von {0}</translation></message>
    <message><source>Version {0} · {1}</source><translation>Fassung {0} · {1}</translation></message>
    <message><source>Versions</source><translation>Fassungen</translation></message>
    <message><source>View of the screen</source><translation>Ansicht des Bildschirms</translation></message>
    <message><source>Volume</source><translation>Lautstärke</translation></message>
    <message><source>Volume: {0}. A click mutes, the wheel turns it</source><translation>Lautstärke: {0}. Ein Klick schaltet stumm, das Rad dreht sie</translation></message>
    <message><source>Wait until that footage is in the reel, then open these.</source><translation>Warten, bis dieses Material in der Rolle ist, dann diese öffnen.</translation></message>
    <message><source>Walking</source><translation>Gehend</translation></message>
    <message><source>Walks</source><translation>Geht</translation></message>
    <message><source>Wander</source><translation>Schwankung</translation></message>
    <message><source>Wander rate</source><translation>Schwankungsrate</translation></message>
    <message><source>Wave</source><translation>Welle</translation></message>
    <message><source>Weave</source><translation>Bildstand</translation></message>
    <message><source>Weight</source><translation>Gewicht</translation></message>
    <message><source>Weight more than sound: 30 Hz, an octave of fall, dust after it</source><translation>Mehr Gewicht als Ton: 30 Hz, eine Oktave Fall, Staub danach</translation></message>
    <message><source>What differs between them (6)</source><translation>Was sich zwischen ihnen unterscheidet (6)</translation></message>
    <message><source>What each number means</source><translation>Was jede Zahl bedeutet</translation></message>
    <message><source>What fills the edges that the motion uncovers</source><translation>Was die Ränder füllt, die die Bewegung aufdeckt</translation></message>
    <message><source>What goes along</source><translation>Was mitgeht</translation></message>
    <message><source>What goes its own way under the plate's own shake</source><translation>Was unter dem eigenen Wackeln der Platte seinen eigenen Weg geht</translation></message>
    <message><source>What is kept</source><translation>Was behalten wird</translation></message>
    <message><source>What is left of it at each further hit within ten seconds; 1 is all</source><translation>Was bei jedem weiteren Schlag binnen zehn Sekunden davon bleibt; 1 ist alles</translation></message>
    <message><source>What is of another colour space is converted to this one</source><translation>Was einen anderen Farbraum hat, wird in diesen umgerechnet</translation></message>
    <message><source>What is of another colour space than the footage, or the film, is converted</source><translation>Was einen anderen Farbraum als das Material oder der Film hat, wird umgerechnet</translation></message>
    <message><source>What is struck</source><translation>Was geschlagen wird</translation></message>
    <message><source>What it is there</source><translation>Was es dort ist</translation></message>
    <message><source>What its loudness follows</source><translation>Dem seine Lautstärke folgt</translation></message>
    <message><source>What moves the shot when it is longer than the take</source><translation>Was die Einstellung bewegt, wenn sie länger ist als der Take</translation></message>
    <message><source>What shows after its end</source><translation>Was nach seinem Ende zu sehen ist</translation></message>
    <message><source>What the camera weighs; heavy ones filter what is quick</source><translation>Was die Kamera wiegt; schwere filtern, was schnell ist</translation></message>
    <message><source>What the chart shows</source><translation>Was das Diagramm zeigt</translation></message>
    <message><source>What the edges need on top of the crop by hand</source><translation>Was die Ränder zum Beschnitt von Hand noch brauchen</translation></message>
    <message><source>What the ground brings before the air does: dull, low, no edge.</source><translation>Was der Boden vor der Luft bringt: dumpf, tief, ohne Kante.</translation></message>
    <message><source>What the holder does</source><translation>Was die Kameraperson tut</translation></message>
    <message><source>What the whole reel is delivered in; shots of another size are fitted</source><translation>Worin die ganze Rolle ausgeliefert wird; Einstellungen anderer Größe werden eingepasst</translation></message>
    <message><source>What the whole reel is delivered in; the sound stays in time</source><translation>Worin die ganze Rolle ausgeliefert wird; der Ton bleibt in der Zeit</translation></message>
    <message><source>What was cut off before the shot's beginning</source><translation>Was vor dem Anfang der Einstellung abgeschnitten wurde</translation></message>
    <message><source>Wheel hop</source><translation>Radspringen</translation></message>
    <message><source>When</source><translation>Wann</translation></message>
    <message><source>When, from the shot's first frame</source><translation>Wann, vom ersten Bild der Einstellung an</translation></message>
    <message><source>Where each pixel looks in the footage, as EXR pictures for a compositor</source><translation>Wohin jedes Pixel im Material blickt, als EXR-Bilder für ein Compositing-Programm</translation></message>
    <message><source>Where errors are kept</source><translation>Wo Fehler festgehalten werden</translation></message>
    <message><source>Where in the footage it begins</source><translation>Wo im Material es beginnt</translation></message>
    <message><source>Where in the take it begins</source><translation>Wo im Take es beginnt</translation></message>
    <message><source>Where it acts</source><translation>Wo es wirkt</translation></message>
    <message><source>Where it ends</source><translation>Wo es endet</translation></message>
    <message><source>Where it has no keys</source><translation>Wo es keine Keyframes hat</translation></message>
    <message><source>Where it is farthest, percent of frame height</source><translation>Wo es am weitesten ist, Prozent der Bildhöhe</translation></message>
    <message><source>Where it is nearest, percent of frame height</source><translation>Wo es am nächsten ist, Prozent der Bildhöhe</translation></message>
    <message><source>Where the footage has another shape than what is delivered</source><translation>Wo das Material eine andere Form hat als das, was ausgeliefert wird</translation></message>
    <message><source>Where the noise is strongest</source><translation>Wo das Rauschen am stärksten ist</translation></message>
    <message><source>Where the noise is strongest (frequency)</source><translation>Wo das Rauschen am stärksten ist (Frequenz)</translation></message>
    <message><source>Where the sound is heard; from the next start on</source><translation>Wo der Ton zu hören ist; ab dem nächsten Start</translation></message>
    <message><source>Whether the crop has to cover it</source><translation>Ob der Beschnitt es abdecken muss</translation></message>
    <message><source>Which course that takes</source><translation>Welchen Verlauf das nimmt</translation></message>
    <message><source>Which course the noise takes</source><translation>Welchen Verlauf das Rauschen nimmt</translation></message>
    <message><source>Which course they take</source><translation>Welchen Verlauf sie nehmen</translation></message>
    <message><source>Which holder of that kind</source><translation>Welche Kameraperson dieser Art</translation></message>
    <message><source>Which jolts</source><translation>Welche Stöße</translation></message>
    <message><source>White</source><translation>Weiß</translation></message>
    <message><source>White is far, then</source><translation>Weiß ist dann fern</translation></message>
    <message><source>Who holds it</source><translation>Wer sie hält</translation></message>
    <message><source>Whole</source><translation>Ganz</translation></message>
    <message><source>Whole shake</source><translation>Ganzes Wackeln</translation></message>
    <message><source>Whole, with borders</source><translation>Ganz, mit Rändern</translation></message>
    <message><source>Width</source><translation>Breite</translation></message>
    <message><source>Width of the outline, percent of the size</source><translation>Breite des Umrisses, Prozent der Größe</translation></message>
    <message><source>Wind</source><translation>Wind</translation></message>
    <message><source>Window</source><translation>Fenster</translation></message>
    <message><source>With edges and shutter</source><translation>Mit Rand und Verschluss</translation></message>
    <message><source>With its shake, crop and blur</source><translation>Mit Wackeln, Beschnitt und Unschärfe</translation></message>
    <message><source>With the first jolts</source><translation>Mit den ersten Stößen</translation></message>
    <message><source>With the keyboard alone</source><translation>Allein mit der Tastatur</translation></message>
    <message><source>With the shot</source><translation>Mit der Einstellung</translation></message>
    <message><source>With {0}</source><translation>Mit {0}</translation></message>
    <message><source>Within</source><translation>Innerhalb</translation></message>
    <message><source>Wood</source><translation>Holz</translation></message>
    <message><source>Wood knock</source><translation>Holzklopfen</translation></message>
    <message><source>Word</source><translation>Wort</translation></message>
    <message><source>Worn on the body</source><translation>Am Körper getragen</translation></message>
    <message><source>Worn projector</source><translation>Abgenutzter Projektor</translation></message>
    <message><source>Worst frame</source><translation>Schlimmstes Bild</translation></message>
    <message><source>Write it to a file</source><translation>In eine Datei schreiben</translation></message>
    <message><source>Write the presets that are listed to a file or a folder</source><translation>Die aufgeführten Vorlagen in eine Datei oder einen Ordner schreiben</translation></message>
    <message><source>Written to {0}.</source><translation>Nach {0} geschrieben.</translation></message>
    <message><source>Written: {0}</source><translation>Geschrieben: {0}</translation></message>
    <message><source>X</source><translation>X</translation></message>
    <message><source>X gain</source><translation>X, Anteil</translation></message>
    <message><source>X here</source><translation>X hier</translation></message>
    <message><source>X reach</source><translation>X, Ausschlag</translation></message>
    <message><source>Y</source><translation>Y</translation></message>
    <message><source>Y gain</source><translation>Y, Anteil</translation></message>
    <message><source>Y here</source><translation>Y hier</translation></message>
    <message><source>Y reach</source><translation>Y, Ausschlag</translation></message>
    <message><source>Yes</source><translation>Ja</translation></message>
    <message><source>Young Tremor</source><translation>Young Tremor</translation></message>
    <message><source>Young Tremor project (*.tremor)</source><translation>Young-Tremor-Projekt (*.tremor)</translation></message>
    <message><source>Zoom</source><translation>Zoom</translation></message>
    <message><source>Zoom gain</source><translation>Zoom, Anteil</translation></message>
    <message><source>Zoom here</source><translation>Zoom hier</translation></message>
    <message><source>Zoom lean</source><translation>Zoomneigung</translation></message>
    <message><source>Zoom reach</source><translation>Zoom, Ausschlag</translation></message>
    <message><source>above half the frame rate</source><translation>über der halben Bildrate</translation></message>
    <message><source>add footage</source><translation>Material hinzufügen</translation></message>
    <message><source>afterimages</source><translation>Nachbilder</translation></message>
    <message><source>all</source><translation>alle</translation></message>
    <message><source>all of it</source><translation>alles davon</translation></message>
    <message><source>all that is heard</source><translation>alles, was zu hören ist</translation></message>
    <message><source>angle over time</source><translation>Winkel über die Zeit</translation></message>
    <message><source>as it is</source><translation>wie es ist</translation></message>
    <message><source>at work</source><translation>bei der Arbeit</translation></message>
    <message><source>at {0}</source><translation>bei {0}</translation></message>
    <message><source>balance</source><translation>Gleichgewicht</translation></message>
    <message><source>bounce and pitch</source><translation>Hüpfen und Nicken</translation></message>
    <message><source>bounce and roll</source><translation>Hüpfen und Rollen</translation></message>
    <message><source>by hand</source><translation>von Hand</translation></message>
    <message><source>by {0}</source><translation>je {0}</translation></message>
    <message><source>changed</source><translation>geändert</translation></message>
    <message><source>changed from its preset</source><translation>gegen die Vorlage geändert</translation></message>
    <message><source>chop, what the legs leave</source><translation>Kabbelwellen, was die Beine übrig lassen</translation></message>
    <message><source>chosen</source><translation>gewählt</translation></message>
    <message><source>config.ocio; built in if empty</source><translation>config.ocio; eingebaut, wenn leer</translation></message>
    <message><source>covers every frame</source><translation>deckt jedes Bild</translation></message>
    <message><source>depth picture</source><translation>Tiefenbild</translation></message>
    <message><source>differs</source><translation>verschieden</translation></message>
    <message><source>do</source><translation>tun</translation></message>
    <message><source>done</source><translation>fertig</translation></message>
    <message><source>drag to move, ends to trim</source><translation>ziehen zum Bewegen, Enden zum Trimmen</translation></message>
    <message><source>drawn by hand</source><translation>von Hand gezeichnet</translation></message>
    <message><source>each shot's own, and the spans'</source><translation>jeder Einstellung eigenes und das der Spannen</translation></message>
    <message><source>every {0:g} s</source><translation>alle {0:g} s</translation></message>
    <message><source>everything added up</source><translation>alles zusammen</translation></message>
    <message><source>failed</source><translation>misslungen</translation></message>
    <message><source>far quake</source><translation>fernes Beben</translation></message>
    <message><source>fast, small</source><translation>schnell, klein</translation></message>
    <message><source>favourites</source><translation>Favoriten</translation></message>
    <message><source>felt when leaning (textbook physiology)</source><translation>beim Anlehnen zu spüren (Lehrbuch der Physiologie)</translation></message>
    <message><source>file</source><translation>Datei</translation></message>
    <message><source>fill</source><translation>Farbfläche</translation></message>
    <message><source>film</source><translation>Film</translation></message>
    <message><source>find footage</source><translation>Material suchen</translation></message>
    <message><source>folded</source><translation>eingeklappt</translation></message>
    <message><source>folded, {0}</source><translation>eingeklappt, {0}</translation></message>
    <message><source>follows what happens</source><translation>folgt dem Geschehen</translation></message>
    <message><source>footage</source><translation>Material</translation></message>
    <message><source>footage sound</source><translation>Ton des Materials</translation></message>
    <message><source>frames</source><translation>Bilder</translation></message>
    <message><source>fresh</source><translation>aktuell</translation></message>
    <message><source>glass</source><translation>Glas</translation></message>
    <message><source>graphics</source><translation>Grafik</translation></message>
    <message><source>ground</source><translation>Boden</translation></message>
    <message><source>gyroscope log</source><translation>Gyroskop-Protokoll</translation></message>
    <message><source>height and tilt together (textbook physiology)</source><translation>Höhe und Neigung zusammen (Lehrbuch der Physiologie)</translation></message>
    <message><source>held</source><translation>aus der Hand</translation></message>
    <message><source>hit</source><translation>Schlag</translation></message>
    <message><source>hover</source><translation>Schwebeflug</translation></message>
    <message><source>how fast time runs</source><translation>wie schnell die Zeit läuft</translation></message>
    <message><source>idling</source><translation>Leerlauf</translation></message>
    <message><source>impact</source><translation>Aufschlag</translation></message>
    <message><source>in the picture</source><translation>im Bild</translation></message>
    <message><source>in the preferences</source><translation>in den Vorgaben</translation></message>
    <message><source>in the sound</source><translation>im Ton</translation></message>
    <message><source>is made again</source><translation>wird neu gemacht</translation></message>
    <message><source>its own</source><translation>sein eigenes</translation></message>
    <message><source>its own shake again</source><translation>eigenes Wackeln noch einmal</translation></message>
    <message><source>just now</source><translation>gerade eben</translation></message>
    <message><source>knocks</source><translation>Klopfen</translation></message>
    <message><source>lay over</source><translation>darüberlegen</translation></message>
    <message><source>letter</source><translation>Buchstabe</translation></message>
    <message><source>library</source><translation>Bibliothek</translation></message>
    <message><source>line</source><translation>Zeile</translation></message>
    <message><source>looking about</source><translation>Umherblicken</translation></message>
    <message><source>machines</source><translation>Maschinen</translation></message>
    <message><source>manual</source><translation>Handbuch</translation></message>
    <message><source>measure the shot</source><translation>die Einstellung messen</translation></message>
    <message><source>move</source><translation>bewegen</translation></message>
    <message><source>muted</source><translation>stumm</translation></message>
    <message><source>nervous</source><translation>nervös</translation></message>
    <message><source>no hits yet, press H</source><translation>noch keine Schläge, H drücken</translation></message>
    <message><source>no sound</source><translation>kein Ton</translation></message>
    <message><source>none</source><translation>keine</translation></message>
    <message><source>not known</source><translation>unbekannt</translation></message>
    <message><source>nothing was written</source><translation>nichts wurde geschrieben</translation></message>
    <message><source>of the frame</source><translation>des Bilds</translation></message>
    <message><source>of the picture</source><translation>des Bilds</translation></message>
    <message><source>off</source><translation>aus</translation></message>
    <message><source>on</source><translation>an</translation></message>
    <message><source>open</source><translation>offen</translation></message>
    <message><source>open a timeline</source><translation>einen Schnitt öffnen</translation></message>
    <message><source>open clip</source><translation>Clip öffnen</translation></message>
    <message><source>over 1 shot</source><translation>über 1 Einstellung</translation></message>
    <message><source>over {0} shots</source><translation>über {0} Einstellungen</translation></message>
    <message><source>own</source><translation>eigene</translation></message>
    <message><source>own shake</source><translation>eigenes Wackeln</translation></message>
    <message><source>page of the manual</source><translation>Seite des Handbuchs</translation></message>
    <message><source>pan</source><translation>Schwenk</translation></message>
    <message><source>pasted anew</source><translation>neu geklebt</translation></message>
    <message><source>peak {0:.1f} px · {1:.1f}°</source><translation>Spitze {0:.1f} px · {1:.1f}°</translation></message>
    <message><source>peak {0:.1f} px · {1:.2f}°</source><translation>Spitze {0:.1f} px · {1:.2f}°</translation></message>
    <message><source>placed by hand</source><translation>von Hand gesetzt</translation></message>
    <message><source>plotted by hand</source><translation>von Hand gesetzt</translation></message>
    <message><source>preset</source><translation>Vorlage</translation></message>
    <message><source>print of a shot</source><translation>Bild einer Einstellung</translation></message>
    <message><source>rail joints</source><translation>Schienenstöße</translation></message>
    <message><source>reel traces</source><translation>Spuren der Rolle</translation></message>
    <message><source>reel waves</source><translation>Wellen der Rolle</translation></message>
    <message><source>region across</source><translation>Bereich quer</translation></message>
    <message><source>region down</source><translation>Bereich abwärts</translation></message>
    <message><source>region height</source><translation>Bereichshöhe</translation></message>
    <message><source>region width</source><translation>Bereichsbreite</translation></message>
    <message><source>registration</source><translation>Bildstand</translation></message>
    <message><source>roll</source><translation>Rollen</translation></message>
    <message><source>rotor</source><translation>Rotor</translation></message>
    <message><source>rough surface</source><translation>rauer Belag</translation></message>
    <message><source>rumble</source><translation>Grollen</translation></message>
    <message><source>run on through the cuts</source><translation>durch die Schnitte weiterlaufen</translation></message>
    <message><source>sRGB</source><translation>sRGB</translation></message>
    <message><source>sea</source><translation>See</translation></message>
    <message><source>set</source><translation>setzen</translation></message>
    <message><source>shake only</source><translation>nur Wackeln</translation></message>
    <message><source>shape it on the chart</source><translation>im Diagramm formen</translation></message>
    <message><source>share of the shake</source><translation>Anteil am Wackeln</translation></message>
    <message><source>shivering</source><translation>Frösteln</translation></message>
    <message><source>shutter 90</source><translation>Verschluss 90</translation></message>
    <message><source>slipping</source><translation>Rutschen</translation></message>
    <message><source>small waves</source><translation>kleine Wellen</translation></message>
    <message><source>solo · {0}</source><translation>solo · {0}</translation></message>
    <message><source>sound</source><translation>Ton</translation></message>
    <message><source>sprocket holes</source><translation>Perforation</translation></message>
    <message><source>starts</source><translation>beginnt</translation></message>
    <message><source>stones</source><translation>Steine</translation></message>
    <message><source>stopped</source><translation>angehalten</translation></message>
    <message><source>strong</source><translation>stark</translation></message>
    <message><source>subtle handheld</source><translation>dezent aus der Hand</translation></message>
    <message><source>sway on rails</source><translation>Schwanken auf Schienen</translation></message>
    <message><source>swell</source><translation>Dünung</translation></message>
    <message><source>swell under water</source><translation>Dünung unter Wasser</translation></message>
    <message><source>take</source><translation>Take</translation></message>
    <message><source>tcp://HOST:8786, or local</source><translation>tcp://HOST:8786 oder local</translation></message>
    <message><source>the marked stretch</source><translation>der markierte Abschnitt</translation></message>
    <message><source>the reel, everything added up</source><translation>die Rolle, alles zusammen</translation></message>
    <message><source>the shot</source><translation>die Einstellung</translation></message>
    <message><source>the whole shot</source><translation>die ganze Einstellung</translation></message>
    <message><source>this project</source><translation>dieses Projekt</translation></message>
    <message><source>this shot</source><translation>diese Einstellung</translation></message>
    <message><source>threshold</source><translation>Schwelle</translation></message>
    <message><source>tilt</source><translation>Neigen</translation></message>
    <message><source>time</source><translation>Zeit</translation></message>
    <message><source>title</source><translation>Titel</translation></message>
    <message><source>to its end</source><translation>bis zum Ende</translation></message>
    <message><source>to the end</source><translation>bis zum Ende</translation></message>
    <message><source>trace presets</source><translation>Vorlagen der Spuren</translation></message>
    <message><source>vehicle</source><translation>Fahrzeug</translation></message>
    <message><source>waits</source><translation>wartet</translation></message>
    <message><source>waits for a rest</source><translation>wartet auf eine Pause</translation></message>
    <message><source>weightless</source><translation>schwerelos</translation></message>
    <message><source>wheels, engine</source><translation>Räder, Motor</translation></message>
    <message><source>where the shake acts</source><translation>wo das Wackeln wirkt</translation></message>
    <message><source>whole</source><translation>ganz</translation></message>
    <message><source>whole move</source><translation>ganze Bewegung</translation></message>
    <message><source>whole shake</source><translation>ganzes Wackeln</translation></message>
    <message><source>wind</source><translation>Wind</translation></message>
    <message><source>with its sound</source><translation>mit Ton</translation></message>
    <message><source>word</source><translation>Wort</translation></message>
    <message><source>x</source><translation>x</translation></message>
    <message><source>y</source><translation>y</translation></message>
    <message><source>your own</source><translation>eigene</translation></message>
    <message><source>zoom</source><translation>Zoom</translation></message>
    <message><source>{0:.0f} ms</source><translation>{0:.0f} ms</translation></message>
    <message><source>{0:.1f} fps reached</source><translation>{0:.1f} fps erreicht</translation></message>
    <message><source>{0:.2f} seconds, {1}</source><translation>{0:.2f} Sekunden, {1}</translation></message>
    <message><source>{0}
{1}×{2} · {3} fps · {4:.1f} s</source><translation>{0}
{1}×{2} · {3} fps · {4:.1f} s</translation></message>
    <message><source>{0} Ctrl+Z brings it back.</source><translation>{0} Strg+Z holt es zurück.</translation></message>
    <message><source>{0} It is marked red on its row.</source><translation>{0} Auf seiner Zeile ist es rot markiert.</translation></message>
    <message><source>{0} a minute</source><translation>{0} je Minute</translation></message>
    <message><source>{0} added: {1}.</source><translation>{0} hinzugefügt: {1}.</translation></message>
    <message><source>{0} and {1}</source><translation>{0} und {1}</translation></message>
    <message><source>{0} easing</source><translation>{0}: Übergang</translation></message>
    <message><source>{0} exists already.</source><translation>{0} gibt es schon.</translation></message>
    <message><source>{0} exists already. Press Replace, or choose another name.</source><translation>{0} gibt es schon. Ersetzen drücken oder einen anderen Namen wählen.</translation></message>
    <message><source>{0} files</source><translation>{0} Dateien</translation></message>
    <message><source>{0} fps</source><translation>{0} fps</translation></message>
    <message><source>{0} frames</source><translation>{0} Bilder</translation></message>
    <message><source>{0} has one quality</source><translation>{0} hat nur eine Qualität</translation></message>
    <message><source>{0} hits</source><translation>{0} Schläge</translation></message>
    <message><source>{0} is copied.</source><translation>{0} ist kopiert.</translation></message>
    <message><source>{0} is open as a reel.</source><translation>{0} ist als Rolle geöffnet.</translation></message>
    <message><source>{0} is open in another window too: what is saved last is what stays.</source><translation>{0} ist auch in einem anderen Fenster offen: Was zuletzt gespeichert wird, bleibt.</translation></message>
    <message><source>{0} is the key of “{1}”: Set key once more takes it.</source><translation>{0} ist die Taste von „{1}“: Noch einmal „Keyframe setzen“ übernimmt sie.</translation></message>
    <message><source>{0} is written, the rest is not</source><translation>{0} ist geschrieben, der Rest nicht</translation></message>
    <message><source>{0} keys</source><translation>{0} Keyframes</translation></message>
    <message><source>{0} min ago</source><translation>vor {0} min</translation></message>
    <message><source>{0} missing, {1} among them: Project, Find missing footage looks in a folder.</source><translation>{0} fehlen, darunter {1}: Projekt, Fehlendes Material finden sucht in einem Ordner.</translation></message>
    <message><source>{0} of frames filled in</source><translation>{0} der Bilder ergänzt</translation></message>
    <message><source>{0} of frames show an edge</source><translation>{0} der Bilder zeigen einen Rand</translation></message>
    <message><source>{0} of the take</source><translation>{0} des Takes</translation></message>
    <message><source>{0} of {1}</source><translation>{0} von {1}</translation></message>
    <message><source>{0} of {1} files could not be used; the first: </source><translation>{0} von {1} Dateien waren nicht zu gebrauchen; die erste: </translation></message>
    <message><source>{0} of {1} films written · </source><translation>{0} von {1} Filmen geschrieben · </translation></message>
    <message><source>{0} of {1} frames · {2} left</source><translation>{0} von {1} Bildern · noch {2}</translation></message>
    <message><source>{0} of {1} frames, {2} left.</source><translation>{0} von {1} Bildern, noch {2}.</translation></message>
    <message><source>{0} of {1} · {2} fps · {3} left</source><translation>{0} von {1} · {2} fps · noch {3}</translation></message>
    <message><source>{0} presets</source><translation>{0} Vorlagen</translation></message>
    <message><source>{0} s ago</source><translation>vor {0} s</translation></message>
    <message><source>{0} shots</source><translation>{0} Einstellungen</translation></message>
    <message><source>{0} shots chosen: what is changed goes to all</source><translation>{0} Einstellungen gewählt: Änderungen gelten für alle</translation></message>
    <message><source>{0} sounds</source><translation>{0} Töne</translation></message>
    <message><source>{0} stands still: there is no shake of its own to add to.</source><translation>{0} steht still: Es gibt kein eigenes Wackeln, das sich verstärken ließe.</translation></message>
    <message><source>{0} steps</source><translation>{0} Schritte</translation></message>
    <message><source>{0} still running.</source><translation>{0} noch in Arbeit.</translation></message>
    <message><source>{0} strands</source><translation>{0} Stränge</translation></message>
    <message><source>{0} taken in.</source><translation>{0} aufgenommen.</translation></message>
    <message><source>{0} takes</source><translation>{0} Takes</translation></message>
    <message><source>{0} tangent</source><translation>{0}: Tangente</translation></message>
    <message><source>{0} waiting</source><translation>{0} warten</translation></message>
    <message><source>{0} written.</source><translation>{0} geschrieben.</translation></message>
    <message><source>{0} · dotted: {1}</source><translation>{0} · gepunktet: {1}</translation></message>
    <message><source>{0} – Young Tremor</source><translation>{0} – Young Tremor</translation></message>
    <message><source>{0}, key {1} of {2}: {3}</source><translation>{0}, Keyframe {1} von {2}: {3}</translation></message>
    <message><source>{0}, on or off</source><translation>{0}, an oder aus</translation></message>
    <message><source>{0}, {1} chosen</source><translation>{0}, {1} gewählt</translation></message>
    <message><source>{0}, {1} of {2} keys chosen</source><translation>{0}, {1} von {2} Keyframes gewählt</translation></message>
    <message><source>{0}: press for another</source><translation>{0}: für einen anderen drücken</translation></message>
    <message><source>{0}: {1}</source><translation>{0}: {1}</translation></message>
    <message><source>{0}: {1}×{2}, {3} fps, {4}, {5}</source><translation>{0}: {1}×{2}, {3} fps, {4}, {5}</translation></message>
    <message><source>· not saved</source><translation>· nicht gespeichert</translation></message>
    <message><source>· saved {0}</source><translation>· gespeichert {0}</translation></message>
    <message><source>“{0}” has not been delivered yet. Render it first (Ctrl+R).</source><translation>„{0}“ wurde noch nicht ausgeliefert. Zuerst rendern (Strg+R).</translation></message>
    <message><source>“{0}” is among the takes of this project.</source><translation>„{0}“ ist unter den Takes dieses Projekts.</translation></message>
    <message><source>“{0}” is kept for all projects ({1}).</source><translation>„{0}“ gilt für alle Projekte ({1}).</translation></message>
    <message><source>“{0}” is measured: it is among the takes.</source><translation>„{0}“ ist gemessen: unter den Takes zu finden.</translation></message>
    <message><source>“{0}” is no number: write it like {1}, or press Esc.</source><translation>„{0}“ ist keine Zahl: wie {1} schreiben oder Esc drücken.</translation></message>
    <message><source>“{0}” runs on over {1} shots, each with its own stretch of it.</source><translation>„{0}“ läuft über {1} Einstellungen weiter, jede mit ihrem Abschnitt davon.</translation></message>
    <message><source>“{0}” was not saved last time: a new project (Ctrl+N) offers to go on with it.</source><translation>„{0}“ wurde beim letzten Mal nicht gespeichert: Ein neues Projekt (Strg+N) bietet an, damit weiterzumachen.</translation></message>
    <message><source>−1 left only, 0 both sides, 1 right only (pan)</source><translation>−1 nur links, 0 beide Seiten, 1 nur rechts (Panorama)</translation></message>
    <message><source>−1 only out, 0 both ways, 1 only in</source><translation>−1 nur hinaus, 0 beides, 1 nur hinein</translation></message>
</context>
</TS>
