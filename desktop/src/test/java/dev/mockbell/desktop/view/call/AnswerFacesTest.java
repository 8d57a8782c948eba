package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Answer;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.SuiteRunner.Called;
import dev.mockbell.table.Column;
import dev.mockbell.table.Type;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.lang.ref.WeakReference;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicReference;
import java.util.zip.GZIPOutputStream;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Labeled;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javax.imageio.ImageIO;
import org.fxmisc.richtext.CodeArea;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.w3c.dom.Document;

/** Reading answers: as rows, as a table, what values hold, held against others, and whatever came in place of an envelope. */
class AnswerFacesTest {
    private static final String CSV = "hour,wind,sky\n06,14,clear\n07,18,clear\n08,22,haze\n09,31,snow\n10,38,snow\n";

    @TempDir
    private Path folder;

    private AnswerDesk desk;
    private Hand hand;
    private CallModel call;

    @BeforeEach
    void open() throws IOException {
        desk = new AnswerDesk(folder);
        hand = desk.hand;
        call = desk.call;
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private String copied() {
        return Hand.on(() -> Clipboard.getSystemClipboard().getString());
    }

    /** Points at the row of the answer with a label, its first. */
    private void point(String label) {
        Hand.run(() -> {
            Grid<?> grid = (Grid<?>) desk.desktop.window.stage().getScene().lookup("#response-sheet");
            List<SheetRow> rows =
                    call.response().lines().stream().map(l -> l.row()).toList();
            int at = 0;
            while (!rows.get(at).label().equals(label)) {
                at++;
            }
            grid.list().getSelectionModel().clearAndSelect(at);
            grid.list().requestFocus();
        });
    }

    @Test
    void aValueThatHoldsATableIsTwoGesturesAway() throws IOException {
        desk.answers(AnswerDesk.closures(
                        "<t:bulletin>" + AnswerDesk.base64(AnswerDesk.zipped(bytes(CSV))) + "</t:bulletin>", ""))
                .send();
        hand.await("the strip says that it is valid", () -> hand.shows("valid"));
        hand.await("a chip", () -> hand.text("#chip-bulletin").equals("gzip of CSV, 5 rows"));
        hand.click("#chip-bulletin");
        hand.await("its rows", () -> hand.find("#inside-table").isPresent());
        assertThat(hand.text("#inside-facts")).contains("CSV").contains("base64");
        desk.shoot("answer-inside");
        hand.click("#inside-as-text");
        hand.await("its text", () -> hand.find("#inside .code").isPresent());
        hand.clickText("Copy");
        hand.await("the text", () -> CSV.equals(Clipboard.getSystemClipboard().getString()));
        Path file = folder.resolve("bulletin.csv");
        Hand.run(() -> call.inside().save(file));
        hand.await("the file", () -> Files.exists(file) && hand.shows("Saved bulletin.csv"));
        assertThat(file).hasContent(CSV);
        hand.click("#inside-close");
        hand.await("it is closed", () -> hand.find("#inside-facts").isEmpty());
        point("bulletin");
        hand.press(KeyCode.ENTER);
        hand.await("by the keyboard too", () -> hand.find("#inside-table").isPresent());
        desk.send();
        hand.await("another answer closes it", () -> hand.find("#inside-facts").isEmpty());
        hand.await(
                "and has a chip of its own", () -> hand.text("#chip-bulletin").equals("gzip of CSV, 5 rows"));
    }

    @Test
    void aChipThatIsPressedStaysWhereItIsWhenSomethingOfTheAnswerIsNoted() throws IOException {
        desk.answers(AnswerDesk.closures(
                        "<t:bulletin>" + AnswerDesk.base64(AnswerDesk.zipped(bytes(CSV))) + "</t:bulletin>", ""))
                .send();
        hand.await("a chip", () -> hand.text("#chip-bulletin").equals("gzip of CSV, 5 rows"));
        hand.await("the rows below it", () -> hand.find("#show-as-table").isPresent());
        Node chip = hand.find("#chip-bulletin").orElseThrow();
        Node table = hand.find("#show-as-table").orElseThrow();
        hand.await("the verdict", () -> hand.shows("valid"));
        point("issued");
        hand.click("#check-this");
        hand.await("the check is noted in its row", () -> hand.shows("check"));
        assertThat(hand.find("#chip-bulletin")).containsSame(chip);
        assertThat(hand.find("#show-as-table")).containsSame(table);
    }

    private String focused() {
        return Hand.on(
                () -> desk.desktop.window.stage().getScene().getFocusOwner().getId());
    }

    @Test
    void whatTheStripSaysStaysWhenTheAnswerIsJudged() {
        // as it is when the answer is there, before it is judged
        AtomicReference<Node> first = new AtomicReference<>();
        Hand.run(() -> call.calledProperty().addListener((o, was, now) -> {
            if (now != null) {
                first.compareAndSet(null, desk.desktop.window.stage().getScene().lookup("#status"));
            }
        }));
        desk.answers(AnswerDesk.closures("")).send();
        hand.await("the verdict", () -> hand.find("#answer-validity").isPresent());
        assertThat(first.get()).isNotNull();
        assertThat(hand.find("#status")).containsSame(first.get());

        first.set(null);
        desk.answers(AnswerDesk.closures("<t:closure/>")).send();
        hand.await("another one", () -> hand.text("#answer-validity").contains("breach"));
        assertThat(hand.find("#status")).containsSame(first.get());
    }

    @Test
    void facesThatNobodyHasLookedAtAreMadeOutOfSightAndAnAnswerIsShownInThem() {
        Scene scene = desk.desktop.window.stage().getScene();
        Hand.run(desk.desktop.window::practise);
        hand.await("XML out of sight", () -> scene.lookup("#answer-xpath") != null);
        assertThat(hand.find("#answer-xpath")).isEmpty();
        hand.await("and the table", () -> scene.lookup("#answer-table") != null);
        assertThat(hand.find("#answer-table")).isEmpty();
        desk.answers(AnswerDesk.closures("")).send();
        hand.await("the rows", () -> hand.find("#show-as-table").isPresent());
        hand.click("#response-faces #segment-xml");
        hand.await("its XML", () -> hand.find("#answer-xpath").isPresent() && hand.shows("Copy path"));
        hand.await("what is practised goes", () -> Hand.on(() -> scene.lookup("#wire") == null));
    }

    @Test
    void aPictureIsShownAsOne() throws IOException {
        ByteArrayOutputStream png = new ByteArrayOutputStream();
        ImageIO.write(new BufferedImage(64, 48, BufferedImage.TYPE_INT_RGB), "png", png);
        desk.answers(AnswerDesk.closures("<t:map>" + AnswerDesk.base64(png.toByteArray()) + "</t:map>", ""))
                .send();
        hand.await("a chip", () -> hand.text("#chip-map").equals("PNG 64×48"));
        hand.click("#chip-map");
        hand.await("the picture", () -> hand.find("#inside-picture").isPresent());
    }

    @Test
    void whatCannotBeUnpackedIsLookedAtAsItIsAndSaysSo() throws IOException {
        ByteArrayOutputStream gzip = new ByteArrayOutputStream();
        try (GZIPOutputStream out = new GZIPOutputStream(gzip)) {
            out.write(bytes("<hut>Kåldfjell</hut>".repeat(50)));
        }
        byte[] cut = Arrays.copyOf(gzip.toByteArray(), gzip.size() - 6);
        desk.answers(AnswerDesk.closures("<t:map>" + AnswerDesk.base64(cut) + "</t:map>", ""))
                .send();
        hand.await("a chip", () -> hand.text("#chip-map").startsWith("gzip"));
        hand.click("#chip-map");
        hand.await("its bytes can be saved", () -> hand.find("#inside-save").isPresent());
        hand.await(
                "why",
                () -> desk.desktop.desk.notices().stream()
                        .anyMatch(n -> n.text().startsWith("The gzip is spoilt")));
    }

    @Test
    void whatRepeatsIsATableThatIsShapedCopiedAndWritten() throws Exception {
        desk.answers(AnswerDesk.closures("")).send();
        hand.await("the strip", () -> hand.shows("valid"));
        hand.click("#show-as-table");
        hand.await("the rows", () -> hand.text("#table-count").equals("3 rows"));
        hand.await(
                "the request gives its room", () -> hand.find("#folded-request").isPresent());
        desk.shoot("answer-table");

        Node copy = hand.find("#copy-rows").orElseThrow();
        hand.type("#table-where", "grade >= 4");
        hand.press(KeyCode.ENTER);
        hand.await("two of them", () -> hand.text("#table-count").equals("2 of 3 rows"));
        assertThat(focused()).as("the condition is still being typed").isEqualTo("table-where");
        assertThat(hand.find("#copy-rows")).as("it may just be pressed").containsSame(copy);
        Column grade = column("grade");
        assertThat(grade.type()).isEqualTo(Type.WHOLE);
        Hand.run(() -> call.table().type(grade, Type.TEXT));
        Hand.run(() -> call.table().sort(grade));
        Hand.run(() -> call.table().sort(grade));
        hand.await(
                "the highest first",
                () -> call.table()
                        .table()
                        .filter(t -> t.rows().size() == 2
                                && "5".equals(t.rows().get(0).value(grade))
                                && t.columns().get(3).type() == Type.TEXT)
                        .isPresent());
        hand.click("#copy-rows");
        hand.await("for a spreadsheet", () -> copied() != null && copied().startsWith("trail\tfrom"));
        assertThat(copied()).contains("Birch saddle\t2027-02-11\t\t5");

        desk.answers(AnswerDesk.closures(AnswerDesk.closure("Gray col", "2027-02-03", "", 4)));
        desk.send();
        hand.await("the choices stay", () -> hand.text("#table-count").equals("3 of 4 rows"));
        assertThat(column("grade").type()).isEqualTo(Type.TEXT);

        hand.click("#put-into");
        hand.clickText("a database…");
        Path database = folder.resolve("trails.db");
        hand.type("#database-address", database.toString());
        hand.type("#database-table", "closures");
        hand.clickText("Write the rows");
        hand.await("they are there", () -> hand.shows("Wrote 3 rows into closures"));
        try (var connection = DriverManager.getConnection("jdbc:sqlite:" + database);
                var rows = connection
                        .createStatement()
                        .executeQuery("select count(*), max(typeof(grade)) from closures")) {
            assertThat(rows.getInt(1)).isEqualTo(3);
            assertThat(rows.getString(2)).as("the type that was chosen").isEqualTo("text");
        }
        hand.click("#open-request");
        hand.await("the request is back", () -> hand.find("#request-sheet").isPresent());
    }

    @Test
    void thatNothingRepeatsIsNotSaidBeforeItIsKnown() {
        desk.answers(AnswerDesk.closures("")).send();
        hand.await("the strip", () -> hand.shows("valid"));
        Scene scene = desk.desktop.window.stage().getScene();
        Hand.run(() -> {
            ((ToggleButton) scene.lookup("#response-faces #segment-table")).fire();
            // in the same turn: what has been found is told in a later one
            assertThat(((Labeled) scene.lookup("#table-count")).getText()).isEqualTo("…");
            assertThat(scene.lookup("#table-path")).isNull();
        });
        hand.await("the rows", () -> hand.text("#table-count").equals("3 rows"));
        desk.answers("<t:ListClosuresResponse xmlns:t='urn:trails'/>").send();
        hand.await("nothing does", () -> hand.find("#table-path").isPresent());
    }

    private Column column(String name) {
        return Hand.on(() -> call.table().table().orElseThrow().shape().columns().stream()
                .filter(c -> c.name().equals(name))
                .findFirst()
                .orElseThrow());
    }

    @Test
    void aConditionThatIsNoneIsToldAndCanBeMended() {
        desk.answers(AnswerDesk.closures("")).send();
        hand.click("#response-faces #segment-table");
        hand.await("the rows", () -> hand.text("#table-count").equals("3 rows"));
        hand.type("#table-where", "grade >=");
        hand.press(KeyCode.ENTER);
        hand.await("why not", () -> !hand.text("#table-trouble").isEmpty());
        hand.type("#table-where", "");
        hand.press(KeyCode.ENTER);
        hand.await("the rows again", () -> hand.text("#table-count").equals("3 rows"));
        assertThat(hand.text("#table-trouble")).isEmpty();
    }

    /** Trees of large answers take much room. */
    @Test
    void ofTheAnswersOfACaseTheLastOneAndTheOneBeforeItAreHeldAndNoMore() {
        List<WeakReference<Document>> trees = new ArrayList<>();
        for (int i = 1; i <= 4; i++) {
            desk.answers(AnswerDesk.closures(AnswerDesk.closure("Gray col", "2027-02-0" + i, "", i)))
                    .send();
            hand.await(
                    "held against the one before",
                    () -> trees.isEmpty() || call.compared().previous().isPresent());
            trees.add(new WeakReference<>(
                    Hand.on(() -> call.calledProperty().get().answer().content().orElseThrow())));
        }
        hand.await("the first two are let go", () -> {
            System.gc();
            return trees.get(0).get() == null && trees.get(1).get() == null;
        });
        assertThat(trees.get(3).get()).isNotNull();
    }

    @Test
    void theOneBeforeALargeAnswerIsComparedAndNotHeld() {
        String many = AnswerDesk.closure("Long lane", "2027-02-03", "", 2).repeat(4_000);
        desk.answers(AnswerDesk.closures(many + AnswerDesk.closure("Gray col", "2027-02-03", "", 4)))
                .send();
        WeakReference<Document> before = new WeakReference<>(
                Hand.on(() -> call.calledProperty().get().answer().content().orElseThrow()));
        desk.answers(AnswerDesk.closures(many + AnswerDesk.closure("Gray col", "2027-02-03", "", 5)))
                .send();
        hand.await("what differs", () -> call.compared().previous().isPresent());
        assertThat(Hand.on(() -> call.compared().previous().orElseThrow().differences()))
                .singleElement()
                .satisfies(d -> {
                    assertThat(d.before()).isEqualTo("4");
                    assertThat(d.now()).isEqualTo("5");
                });
        hand.await("it is let go", () -> {
            System.gc();
            return before.get() == null;
        });
    }

    @Test
    void anAnswerIsHeldAgainstTheOneBeforeItsBaselineAndAnyOther() {
        desk.answers(AnswerDesk.closures("")).send();
        hand.click("#keep-baseline");
        hand.await("it is the same", () -> hand.shows("of "));
        hand.await("kept", () -> now().baseline().isPresent());
        desk.answers(AnswerDesk.closures(AnswerDesk.closure("Gray col", "2027-02-03", "", 4))
                .replace("06:00", "07:30")
                .replace("2027-03-30", "2027-04-15"));
        desk.send();
        hand.await("what differs", () -> hand.shows("→ 2027-04-15") && hand.shows("2027-01-20T06:00:00Z"));
        desk.shoot("answer-compared");
        assertThat(hand.shows("more: ")).isTrue();
        int before = Hand.on(
                () -> call.compared().withBaseline().orElseThrow().differences().size());
        hand.click("#leave-out");
        hand.await(
                "it is left out",
                () -> !now().baseline().orElseThrow().leftOut().isEmpty());
        hand.await(
                "no longer compared",
                () -> call.compared()
                        .withBaseline()
                        .filter(c -> c.differences().size() == before - 1)
                        .isPresent());
        assertThat(hand.shows("left out: /ListClosuresResponse/issued")).isTrue();

        hand.click("#compare-with");
        hand.await("the exchanges", () -> hand.shows("200"));
        Hand.run(() -> call.compared().choices(found -> call.compared().with(found.get(0))));
        hand.await("held against it", () -> call.compared().withOther().isPresent());
        assertThat(Hand.on(() -> call.compared().otherTitle().orElseThrow())).startsWith("exchange ");
        hand.press(KeyCode.ESCAPE);

        hand.click("#drop-baseline");
        hand.await("gone", () -> now().baseline().isEmpty());
        hand.clickText("Bring it back");
        hand.await("back", () -> now().baseline().isPresent());
        assertThat(now().baseline().orElseThrow().leftOut()).containsExactly("/ListClosuresResponse/issued");
    }

    private Case now() {
        return Hand.on(() -> call.currentProperty().get());
    }

    @Test
    void theXmlIsSearchedByPathWithTheNumberOfHitsAndGivesPaths() {
        desk.answers(AnswerDesk.closures("")).send();
        hand.click("#response-faces #segment-xml");
        hand.await("the text", () -> shown("#response-xml").contains("Birch saddle"));
        hand.type("#answer-xpath", "//*:closure[*:grade > 3]");
        hand.press(KeyCode.ENTER);
        hand.await("two hits", () -> hand.text("#answer-xpath-hits").equals("1 of 2"));
        hand.press(KeyCode.DOWN);
        hand.await("the second", () -> hand.text("#answer-xpath-hits").equals("2 of 2"));
        hand.click("#copy-path");
        hand.await(
                "its path",
                () -> "/ListClosuresResponse/closure[3]"
                        .equals(Clipboard.getSystemClipboard().getString()));
        hand.type("#answer-xpath", "//*:closure[");
        hand.press(KeyCode.ENTER);
        hand.await("no XPath", () -> hand.text("#answer-xpath-hits").equals("no XPath"));
        hand.type("#answer-xpath", "/ListClosuresResponse/nothing");
        hand.press(KeyCode.ENTER);
        hand.await("no hit", () -> hand.text("#answer-xpath-hits").equals("no hit"));
        hand.press(KeyCode.CONTROL, KeyCode.F);
        hand.await("the search", () -> hand.find("#find-text").isPresent());
    }

    private String shown(String selector) {
        return hand.find(selector)
                .map(n -> Hand.on(() -> ((CodeArea) n).getText()))
                .orElse("");
    }

    @Test
    void theWireIsHexWhereItIsNoTextWithTheMessageBeside() throws IOException {
        desk.headers.put("Content-Encoding", "gzip");
        desk.answers(200, AnswerDesk.zipped(AnswerDesk.envelope(AnswerDesk.closures(""))))
                .send();
        hand.click("#response-faces #segment-wire");
        hand.await("the bytes", () -> shown("#wire-bytes").contains("1f 8b 08"));
        assertThat(shown("#wire-bytes")).contains("POST /trails").contains("Content-encoding");
        assertThat(shown("#wire-decoded")).contains("Skarn ridge");
        assertThat(hand.text("#wire-how")).isEqualTo("from gzip");
        desk.shoot("answer-wire");
        byte[] spoilt = AnswerDesk.zipped(AnswerDesk.envelope(AnswerDesk.closures("")));
        spoilt[spoilt.length - 6] ^= 0x55;
        desk.answers(200, spoilt).send();
        hand.await("as far as it goes", () -> hand.text("#wire-how").equals("from gzip, as far as it goes"));
        assertThat(shown("#wire-decoded")).contains("Skarn ridge");
        Path file = folder.resolve("answer.http");
        Hand.run(() -> call.faces().saveWire(file));
        hand.await("the file", () -> hand.shows("to answer.http."));
        assertThat(Files.readAllBytes(file)).endsWith(spoilt);
        hand.click("#response-faces #segment-sheet");
        hand.await("why", () -> hand.text("#answer-flaw").contains("gzip"));
        desk.shoot("answer-spoilt");
        hand.click("#show-what-came");
        hand.await("the bytes again", () -> hand.find("#wire-bytes").isPresent());
    }

    @Test
    void anErrorPageIsToldByItsStatusAndTitleAndShownAsText() {
        desk.headers.put("Content-Type", "text/html");
        desk.answers(502, bytes("<html><head><title>Bad Gateway</title></head><body><h1>Try later</h1></body></html>"))
                .send();
        hand.await("its title", () -> hand.text("#answer-flaw").contains("titled “Bad Gateway”"));
        assertThat(hand.text("#answer-flaw")).startsWith("Status 502");
        assertThat(hand.text("#answer-help")).contains("check that it is up");
        hand.await("its text", () -> shown("#answer-text").contains("Try later"));
        assertThat(hand.shows("Point at a row")).as("there is none").isFalse();
        desk.shoot("answer-page");
    }

    @Test
    void whoIsNotKnownIsTakenToTheCasesProfile() {
        desk.headers.put("WWW-Authenticate", "Basic realm=\"trails\"");
        desk.answers(401, bytes("who?")).send();
        hand.await("what it asks for", () -> hand.text("#answer-flaw").contains("it asks for Basic realm=\"trails\""));
        hand.click("#give-login");
        hand.await("the profiles", () -> hand.shows("+ New profile"));
    }

    @Test
    void whatHelpsStaysWhenTheAnswerIsJudgedAndGoesWithIt() {
        desk.answers(401, bytes("who?")).send();
        hand.await("its text", () -> shown("#answer-text").equals("who?"));
        Node before = hand.find("#give-login").orElseThrow();
        Node status = hand.find("#status").orElseThrow();
        Hand.run(() -> {
            Called now = call.calledProperty().get();
            Answer kept = now.answer().with(now.answer().exchange());
            call.calledProperty().set(new Called(now.result(), kept, Map.of(), false));
        });
        assertThat(hand.find("#give-login")).containsSame(before);
        assertThat(hand.find("#status")).containsSame(status);
        desk.answers(401, bytes("who else?")).send();
        hand.await("its text", () -> shown("#answer-text").equals("who else?"));
        assertThat(hand.find("#give-login")).isPresent().get().isNotSameAs(before);
        desk.answers(AnswerDesk.closures("")).send();
        hand.await("rows", () -> hand.find("#response-sheet").isPresent());
        assertThat(hand.find("#give-login")).isEmpty();
    }

    @Test
    void aContractInPlaceOfAnAnswerCanBeImported() throws IOException {
        String wsdl = Files.readString(desk.desktop.wsdl);
        desk.answers(200, bytes(wsdl)).send();
        hand.await("what it is", () -> hand.text("#answer-flaw").contains("a WSDL, not an answer"));
        desk.shoot("answer-wsdl");
        hand.click("#import-contract");
        hand.await("it is kept", () -> desk.desktop.desk.project().contracts().size() == 2);
        assertThat(Hand.on(() -> desk.desktop.desk.stationProperty().get())).isEqualTo(Station.CONTRACT);
    }

    @Test
    void otherXmlIsRowsAndWhatIsNoTextCanBeLookedInto() {
        desk.answers(200, bytes("<problem><code>17</code><text>No such hut</text></problem>"))
                .send();
        hand.await("its rows", () -> hand.shows("No such hut"));
        assertThat(hand.text("#answer-flaw")).contains("XML, <problem>, not a SOAP envelope");
        desk.headers.put("Content-Type", "application/pdf");
        desk.answers(200, bytes("%PDF-1.4 \u0000\u0001 nothing else")).send();
        hand.await("a document", () -> hand.text("#answer-flaw").contains("PDF"));
        hand.click("#look-into-answer");
        hand.await("inside", () -> hand.find("#inside-save").isPresent());
    }

    @Test
    void aBodyOfTextAloneIsNotSaidToBeEmpty() {
        desk.answers("the register is down").send();
        hand.await("the text", () -> hand.shows("Text (“the register is down”) stands where"));
        assertThat(hand.shows("Body holds no element")).isTrue();
        assertThat(hand.shows("Point at a row")).isFalse();
    }

    @Test
    void anotherPayloadIsLaidOutAsWhatItIsAndTold() {
        desk.answers("<t:ListHuts xmlns:t='urn:trails'><t:hut>Kåldfjell</t:hut></t:ListHuts>")
                .send();
        hand.await("its rows", () -> hand.shows("Kåldfjell"));
        assertThat(hand.shows("Point at a row")).isTrue();
        hand.await("told", () -> hand.text("#answer-validity").endsWith("breach"));
        desk.answers(AnswerDesk.closures("").replace(">4<", ">four<")).send();
        hand.await("told", () -> hand.text("#answer-validity").endsWith("breach"));
        desk.shoot("answer-invalid");
        hand.await("where", () -> hand.shows("'four'"));
        desk.shoot("answer-invalid");
        hand.clickText("show");
        hand.await("its row", () -> pointed().equals("grade"));
    }

    private String pointed() {
        Grid<?> grid = (Grid<?>) desk.desktop.window.stage().getScene().lookup("#response-sheet");
        return grid.list().getSelectionModel().getSelectedItem() instanceof dev.mockbell.desktop.model.Line l
                ? l.row().label()
                : "";
    }

    @Test
    void whereTheTimeWentIsDrawnToScale() {
        desk.answers(AnswerDesk.closures("")).send();
        hand.await("the stages", () -> hand.find("#stage-wait").isPresent());
        double drawn = Hand.on(() -> List.of("name", "connect", "send", "wait", "receive").stream()
                .mapToDouble(s -> desk.desktop
                        .window
                        .stage()
                        .getScene()
                        .lookup("#stage-" + s)
                        .getBoundsInLocal()
                        .getHeight())
                .sum());
        assertThat(drawn).isBetween(140.0, 165.0);
        assertThat(Hand.on(() -> desk.desktop.window.stage().getScene().lookup("#stage-TLS")))
                .isNull();
    }
}
