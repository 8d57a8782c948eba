package dev.mockbell.desktop.model;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The two faces of a message, without a window. */
class MessageModelTest {
    private static final String WSDL = """
            <definitions targetNamespace="urn:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:s" xmlns:t="urn:t"
              xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:t" elementFormDefault="qualified"><xs:element name="Trip"><xs:complexType><xs:sequence>
                <xs:element name="title" type="xs:string"/><xs:element name="leg" maxOccurs="3"><xs:complexType><xs:sequence>
                <xs:element name="km" type="xs:int"/></xs:sequence></xs:complexType></xs:element>
                <xs:element name="note" type="xs:string" minOccurs="0"/></xs:sequence></xs:complexType></xs:element></xs:schema></types>
              <message name="M"><part name="p" element="t:Trip"/></message>
              <portType name="P"><operation name="Go"><input message="tns:M"/></operation></portType>
              <binding name="B" type="tns:P"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/><operation name="Go"><input><soap:body use="literal"/></input></operation></binding>
              <service name="S"><port name="Q" binding="tns:B"><soap:address location="http://127.0.0.1:1/"/></port></service>
            </definitions>""";

    private final MessageModel model = new MessageModel();
    private final List<String> heard = new ArrayList<>();
    private MessageOutline outline;

    @BeforeEach
    void open() {
        Contract contract = new ContractReader((DocumentFetcher)
                        (uri, stop) -> new DocumentFetcher.Fetched(uri, WSDL.getBytes(StandardCharsets.UTF_8), ""))
                .read("x", URI.create("mem:/x"), Progress.NONE, new StopSignal());
        outline = MessageOutline.ofRequest(
                contract, contract.operation("Go", null).orElseThrow().operation());
        model.onEdited(heard::add);
        model.open(outline, "<t:Trip xmlns:t=\"urn:t\"><t:title>A</t:title><t:leg><t:km>1</t:km></t:leg></t:Trip>");
    }

    /** Whatever is done, every step goes back to the very text before it, and every row has its line. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
    void anyStepsGoBackToTheVeryTextsBefore(long seed) {
        Random random = new Random(seed);
        model.typeXml("<?xml version='1.0'?>\n " + model.xml().replace("<t:leg>", "<!-- é -->\n<t:leg>") + "\n");
        List<String> texts = new ArrayList<>();
        for (int i = 0; i < 40; i++) {
            String before = model.xml();
            Line line = model.lines().get(random.nextInt(model.lines().size()));
            step(line.row(), i, random);
            if (!model.xml().equals(before)) {
                texts.add(before);
            }
            assertThat(model.lines())
                    .allSatisfy(l -> assertThat(model.line(l.row())).containsSame(l));
        }
        assertThat(texts).isNotEmpty();
        String last = model.xml();
        for (int i = texts.size() - 1; i >= 0; i--) {
            model.undo();
            assertThat(model.xml()).as("seed %s, step %s", seed, i).isEqualTo(texts.get(i));
        }
        texts.forEach(t -> model.redo());
        assertThat(model.xml()).isEqualTo(last);
    }

    /** Text torn at random and mended again, beside edits of the rows: each keeps what the other holds. */
    @ParameterizedTest
    @ValueSource(longs = {11, 12, 13, 14, 15, 16, 17, 18})
    void tornTextsAreKeptAndTheRowsWait(long seed) {
        Random random = new Random(seed);
        List<String> texts = new ArrayList<>(List.of(model.xml()));
        int at = 0;
        for (int i = 0; i < 80; i++) {
            String before = model.xml();
            boolean wasBroken = model.brokenProperty().get();
            int dice = random.nextInt(8);
            if (dice == 0 && at > 0) {
                model.undo();
                at--;
            } else if (dice == 1 && at + 1 < texts.size()) {
                model.redo();
                at++;
            } else {
                if (dice < 4) {
                    model.replaceXml(torn(before, random));
                } else if (dice == 4) {
                    model.takeSheet();
                } else {
                    step(model.lines().get(random.nextInt(model.lines().size())).row(), i, random);
                    assertThat(wasBroken && !model.xml().equals(before))
                            .as("rows that wait overwrite nothing")
                            .isFalse();
                }
                if (!model.xml().equals(before)) {
                    texts.subList(at + 1, texts.size()).clear();
                    texts.add(model.xml());
                    at++;
                }
            }
            assertThat(model.xml()).as("seed %s, step %s", seed, i).isEqualTo(texts.get(at));
            model.foldAll(false);
            if (model.brokenProperty().get()) {
                assertThat(model.lines()).isNotEmpty();
                assertThat(model.troubleProperty().get()).isNotEmpty();
            } else {
                MessageModel fresh = new MessageModel();
                fresh.open(outline, model.xml());
                fresh.foldAll(false);
                assertThat(shown(model)).as("seed %s, step %s", seed, i).isEqualTo(shown(fresh));
            }
        }
        assertThat(texts).hasSizeGreaterThan(5);
    }

    private static List<String> shown(MessageModel of) {
        return of.lines().stream()
                .map(l -> l.depth() + " " + l.row().label() + " " + l.row().state() + " "
                        + l.row().value() + " " + l.row().problem())
                .toList();
    }

    private static String torn(String text, Random random) {
        if (random.nextInt(3) == 0) {
            // mended, with something new
            return "<t:Trip xmlns:t=\"urn:t\"><t:title>" + random.nextInt(9)
                    + "</t:title><!-- kept --><t:leg/></t:Trip>";
        }
        int from = random.nextInt(text.length());
        int to = Math.min(text.length(), from + random.nextInt(6));
        List<String> pieces = List.of("", "<", ">", "&", "x", "</t:leg>", "<t:leg>", "]]>", "<!--", "{", "é", "\"");
        return text.substring(0, from) + pieces.get(random.nextInt(pieces.size())) + text.substring(to);
    }

    private void step(SheetRow row, int turn, Random random) {
        switch (random.nextInt(5)) {
            case 0 -> {
                // a put is a step of its own, where typing in one field goes on as one
                if (row.editable()) {
                    model.edits().put(row, "v" + turn + (random.nextBoolean() ? "é" : "<&>"));
                }
            }
            case 1 -> {
                if (row.canRepeat()) {
                    model.edits().repeat(row);
                }
            }
            case 2 -> model.edits().leaveOut(row);
            case 3 -> model.edits().include(row);
            default -> model.fold(row);
        }
    }

    @Test
    void whatWasTakenOutComesBackWithItsValueAlsoAfterUndoAndXml() {
        model.edits().include(row("note"));
        model.type(row("note"), "bring skins");
        model.edits().leaveOut(row("note"));
        model.type(row("km"), "7");
        model.undo();
        assertThat(model.xml()).doesNotContain("7").doesNotContain("note");
        model.typeXml(model.xml().replace(">A<", ">B<"));
        model.edits().include(row("note"));
        assertThat(model.xml()).contains(">B<").contains("<t:note>bring skins</t:note>");
    }

    private SheetRow row(String label) {
        return model.lines().stream()
                .map(Line::row)
                .filter(r -> r.label().equals(label))
                .findFirst()
                .orElseThrow();
    }

    private List<String> labels() {
        return model.lines().stream().map(l -> l.row().label()).toList();
    }

    @Test
    void typingIsHeardAndChangesTheXmlButNotTheRows() {
        var before = List.copyOf(model.lines());
        assertThat(model.type(row("km"), "many"))
                .hasValueSatisfying(p -> assertThat(p).contains("many"));
        assertThat(model.troubleProperty().get()).startsWith("km: ");
        assertThat(model.xml()).contains(">many<");
        assertThat(model.lines()).isEqualTo(before);
        assertThat(heard).hasSize(1);
    }

    @Test
    void aFoldedRowHidesWhatIsBelow() {
        model.fold(row("leg"));
        assertThat(labels()).containsExactly("Trip", "title", "leg", "note");
        model.fold(row("leg"));
        assertThat(labels()).contains("km");
    }

    @Test
    void severalStepsGoBackAndForthOverBothFaces() {
        String start = model.xml();
        model.type(row("title"), "B");
        model.edits().include(row("note"));
        model.typeXml(model.xml().replace(">1<", ">2<"));
        String end = model.xml();
        model.undo();
        assertThat(model.xml()).contains(">1<").contains("note");
        model.undo();
        assertThat(model.xml()).doesNotContain("note").contains(">B<");
        model.undo();
        assertThat(model.xml()).isEqualTo(start);
        model.redo();
        model.redo();
        model.redo();
        assertThat(model.xml()).isEqualTo(end);
    }

    @Test
    void brokenXmlKeepsTheLastSheetAndItsOwnText() {
        model.typeXml("<t:Trip");
        assertThat(model.xml()).isEqualTo("<t:Trip");
        assertThat(model.troubleProperty().get()).contains("not well-formed");
        assertThat(labels()).contains("km");
        assertThat(model.brokenProperty().get()).isTrue();
        model.edits().put(model.lines().get(1).row(), "lost?");
        model.edits().fill(Detail.FULL);
        assertThat(model.xml()).as("no row overwrites it").isEqualTo("<t:Trip");
        model.takeSheet();
        assertThat(model.brokenProperty().get()).isFalse();
        assertThat(model.xml()).contains("km");
        model.undo();
        assertThat(model.xml()).isEqualTo("<t:Trip");
        model.typeXml("<t:Trip xmlns:t=\"urn:t\"/>");
        assertThat(model.troubleProperty().get()).contains("requires this element");
    }

    @Test
    void fillingTellsHowManyPartsAreLeftOut() {
        assertThat(model.leftOut()).isEqualTo(1);
        model.edits().fill(Detail.FULL);
        assertThat(model.leftOut()).isZero();
        assertThat(model.breaches()).isEmpty();
    }
}
