package dev.mockbell.xml;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

class WrittenXmlTest {
    private static final String STAY =
            "<stay><hut area='north'>Kaldfell</hut>\n <!-- two -->\n <guest><name>Ines</name><age>30</age></guest><guest/></stay>";

    private final Document document = Xml.parse(STAY, "stay", XmlLimits.MESSAGE);
    private final WrittenXml written = new WrittenXml(document);

    private static Element first(Node around) {
        return Xml.children(around).get(0);
    }

    @Test
    void whatNobodySpokeOfIsTakenOverFromTheTextBefore() {
        String before = written.text();
        Element guest = Xml.children(document.getDocumentElement()).get(1);
        first(guest).setTextContent("Unsaid");
        written.changed(first(document.getDocumentElement()));
        assertThat(written.text())
                .as("the guest is not looked at again")
                .isEqualTo(before)
                .doesNotContain("Unsaid");
        written.changed(first(guest));
        assertThat(written.text()).isEqualTo(XmlText.exact(document)).contains("Unsaid");
    }

    @Test
    void oneChangedElementLeavesWhatStandsBeforeAndBehindIt() {
        String before = written.text();
        Element hut = first(document.getDocumentElement());
        hut.setTextContent("Ridge House");
        written.changed(hut);
        assertThat(written.text()).isEqualTo(XmlText.exact(document)).contains("<hut area=\"north\">Ridge House</hut>");
        assertThat(written.sameBefore(before)).isEqualTo(before.indexOf("<hut"));
        assertThat(written.sameAfter(before)).isEqualTo(before.length() - before.indexOf("</hut>") - "</hut>".length());
        assertThat(written.sameBefore("another")).isZero();
        assertThat(written.sameAfter("another")).isZero();
    }

    @Test
    void anElementThatWentAwayAndCameBackChangedIsWrittenAsItIs() {
        written.text();
        Element stay = document.getDocumentElement();
        Element guest = Xml.children(stay).get(1);
        stay.removeChild(guest);
        first(guest).setTextContent("Mira");
        stay.insertBefore(guest, stay.getFirstChild());
        written.changed(stay);
        written.placed(guest);
        assertThat(written.text()).isEqualTo(XmlText.exact(document)).startsWith("<stay><guest><name>Mira</name>");
    }

    @Test
    void manyElementsThatCameAndWentAreForgotten() {
        Element stay = document.getDocumentElement();
        for (int i = 0; i < 30_000; i++) {
            Node last = stay.getLastChild();
            Element fresh = document.createElementNS(null, "guest");
            fresh.appendChild(document.createElementNS(null, "name"));
            stay.replaceChild(fresh, last);
            written.changed(stay);
            if (i % 100 == 0) {
                assertThat(written.text()).isEqualTo(XmlText.exact(document));
            } else {
                written.text();
            }
        }
        assertThat(written.held()).isLessThan(12_000);
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
    void afterAnyChangesTheTextIsThatOfTheWholeDocument(long seed) {
        Random random = new Random(seed);
        List<Element> away = new ArrayList<>();
        String before = written.text();
        for (int i = 0; i < 400; i++) {
            Element at = anyElement(random);
            switch (random.nextInt(8)) {
                case 0 -> {
                    at.setAttribute("n" + random.nextInt(3), "<" + i + ">");
                    written.changed(at);
                }
                case 1 -> {
                    at.appendChild(document.createTextNode("t" + i));
                    written.changed(at);
                }
                case 2, 3 -> {
                    at.insertBefore(document.createElementNS(null, "e" + i), at.getFirstChild());
                    written.changed(at);
                }
                case 4 -> takeAway(at, away);
                case 5 -> putBack(at, away, random);
                case 6 -> turnRound(at);
                default -> {
                    Element copied = Xml.children(at).isEmpty() ? at : first(at);
                    if (copied.getElementsByTagName("*").getLength() < 5) {
                        at.appendChild(copied.cloneNode(true));
                        written.changed(at);
                    }
                }
            }
            if (random.nextInt(3) > 0) {
                String text = written.text();
                assertThat(text).as("seed %s, step %s", seed, i).isEqualTo(XmlText.exact(document));
                assertThat(text.substring(0, written.sameBefore(before)))
                        .isEqualTo(before.substring(0, written.sameBefore(before)));
                assertThat(text.substring(text.length() - written.sameAfter(before)))
                        .isEqualTo(before.substring(before.length() - written.sameAfter(before)));
                before = text;
            }
        }
    }

    private void takeAway(Element at, List<Element> away) {
        if (at.getParentNode() instanceof Element around) {
            around.removeChild(at);
            away.add(at);
            written.changed(around);
        }
    }

    private void putBack(Element at, List<Element> away, Random random) {
        if (away.isEmpty()) {
            return;
        }
        Element back = away.remove(random.nextInt(away.size()));
        if (random.nextBoolean()) {
            back.appendChild(document.createTextNode("changed while away"));
        }
        at.appendChild(back);
        written.changed(at);
        written.placed(back);
    }

    /** The last node right in it becomes the first. */
    private void turnRound(Element at) {
        if (at.hasChildNodes()) {
            at.insertBefore(at.getLastChild(), at.getFirstChild());
            written.changed(at);
        }
    }

    private Element anyElement(Random random) {
        Element at = document.getDocumentElement();
        while (!Xml.children(at).isEmpty() && random.nextInt(4) > 0) {
            List<Element> below = Xml.children(at);
            at = below.get(random.nextInt(below.size()));
        }
        return at;
    }
}
