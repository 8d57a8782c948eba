package dev.mockbell.app;

import dev.mockbell.contract.Export;
import dev.mockbell.demo.StandIn;
import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.WindowPlace;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.UserFolders;
import dev.mockbell.project.KeptContract;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Map;
import java.util.function.Function;
import javafx.application.Platform;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;

/** The part of the example that is about contracts: one that changed, one that is written by hand, a page that lists some. */
final class ContractWalk {
    /** The demo's service of what was found in huts, which does not exist yet. */
    private static final String LOST_AND_FOUND = """
            Name	Type	How often	Limits	What it means
            ReportItem	operation			Something was found in a hut
            takes
            hutId	text		NF-[0-9]{2}	where it was found
            item		1 to 20
              kind	one of		BOOT, POLE, GLOVE, OTHER
              description	text		at most 200
              foundOn	date
              photo	bytes	may be left out	as an attachment
            gives
            tag	text		L-[0-9]{4}	hang it on the item
            fails with UnknownHut
            hutId	text
            FindItems	operation
            takes
            hutId	text	may be left out	NF-[0-9]{2}
            gives
            item	Item	any number
            Discard	one-way
            takes
            tag	text
            """;

    private final Hand hand;
    private final Models models;
    private final Function<String, Path> pictures;

    ContractWalk(Hand hand, Models models, Function<String, Path> pictures) {
        this.hand = hand;
        this.models = models;
        this.pictures = pictures;
    }

    /** The hut booking held against a later version of it. */
    String changes(Path folder) {
        KeptContract kept =
                Hand.on(() -> models.desk().project().contract("hut-booking").orElseThrow());
        Map<String, byte[]> files = Export.files(
                kept.contract(), Export.Form.REWRITTEN, a -> a.replace("/hut-booking-12", "/v2/hut-booking"));
        files.forEach((name, bytes) ->
                AtomicFile.write(folder.resolve(name), later(new String(bytes, StandardCharsets.UTF_8))));
        String wsdl = files.keySet().iterator().next();
        Hand.run(() -> models.changes().compare(kept, folder.resolve(wsdl).toString()));
        hand.await("what changed", () -> hand.find("#changes").isPresent());
        hand.await("the lines", () -> hand.find("#change-lines").isPresent());
        hand.click("#changes-next");
        hand.shoot(pictures.apply("changes"));
        String touched = hand.text("#change-sum");
        hand.press(KeyCode.ESCAPE);
        hand.await("the board", () -> hand.find("#board").isPresent());
        return touched;
    }

    /** What became of the hut booking's documents some months later. */
    private static String later(String document) {
        return document.replace("<xs:maxInclusive value=\"14\"/>", "<xs:maxInclusive value=\"10\"/>")
                .replace(
                        "<xs:element name=\"memberNo\" type=\"xs:string\" minOccurs=\"0\"/>",
                        "<xs:element name=\"memberNo\" type=\"xs:string\" minOccurs=\"0\"/><xs:element name=\"email\" type=\"xs:string\"/>")
                .replace("name=\"refund\"", "name=\"refundTotal\"");
    }

    /** A contract that is written as a table, with what others will read of it beside. */
    String written() {
        Hand.run(() -> models.written().begin("Lost and found"));
        hand.await("the table", () -> hand.find("#written").isPresent());
        Hand.run(() -> models.written().paste(0, LOST_AND_FOUND));
        Hand.run(() -> models.written()
                .settings(c ->
                        c.withNamespace("urn:northfell:lost-and-found").withAddress("http://127.0.0.1:8482/lost")));
        hand.press(KeyCode.ESCAPE);
        hand.await(
                "kept",
                () -> Hand.on(
                        () -> models.desk().project().contract("lost-and-found").isPresent()));
        KeptContract kept =
                Hand.on(() -> models.desk().project().contract("lost-and-found").orElseThrow());
        Hand.run(() -> models.written().edit(kept));
        hand.await("the table", () -> hand.find("#written").isPresent());
        hand.await("it is clean", () -> hand.shows("Valid WSDL 1.1 and XML Schema 1.0"));
        hand.click("#written-4-name");
        hand.shoot(pictures.apply("written"));
        hand.press(KeyCode.ESCAPE);
        hand.await("the board", () -> hand.find("#board").isPresent());
        return kept.contract().operations().size() + " operations, "
                + kept.contract().findings().size() + " findings";
    }

    /** An empty project, and the page on which the stand-in lists its services. */
    static String start(Path folder, StandIn standIn, Path picture) {
        Desk desk = Hand.on(() -> Desk.open(
                folder.resolve("new"),
                Platform::runLater,
                Clock.systemUTC(),
                UserFolders.of(Map.of(), folder.resolve("home"))));
        // the demo that it would open is the one that is walked through
        desk.onDemo(failed -> {});
        MockBellWindow window = Hand.on(() -> MockBellWindow.open(desk, new Stage(), WindowPlace.NONE));
        Hand other = new Hand(window.stage());
        other.type("#contract-address", standIn.page());
        other.press(KeyCode.ENTER);
        other.await("what the page lists", () -> other.find("#found").isPresent());
        other.shoot(picture);
        int found = Hand.on(() -> desk.contracts().found().count());
        Hand.run(() -> window.stage().hide());
        window.closed().join();
        return found + " contracts of 3 can be read";
    }
}
