package dev.mockbell.xml;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

class RecurringTest {
    @Test
    void givesTheVeryTextThatWasAskedForHoweverManyWantTheSamePlace() {
        Recurring small = new Recurring(0);
        Random random = new Random(12);
        for (int i = 0; i < 20_000; i++) {
            String text = Integer.toString(random.nextInt(3_000), 2 + random.nextInt(30));
            assertThat(small.of(new StringBuilder(text))).isEqualTo(text);
        }
        assertThat(small.of("")).isEmpty();
        assertThat(small.of("x".repeat(1_000))).hasSize(1_000);
    }

    @Test
    void holdsWhatComesAgainOnce() {
        StringBuilder text = new StringBuilder("<all>");
        for (int i = 0; i < 500; i++) {
            text.append("<a code='open'>2027-05-1").append(i % 9).append("</a>\n  ");
        }
        Element all = Xml.parse(text.append("</all>").toString(), "all", XmlLimits.MESSAGE)
                .getDocumentElement();

        List<String> dates = new ArrayList<>();
        List<String> gaps = new ArrayList<>();
        List<String> codes = new ArrayList<>();
        for (Node n = all.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element a) {
                dates.add(a.getFirstChild().getNodeValue());
                codes.add(a.getAttributeNode("code").getFirstChild().getNodeValue());
            } else {
                gaps.add(n.getNodeValue());
            }
        }

        assertThat(dates).hasSize(500).startsWith("2027-05-10", "2027-05-11", "2027-05-12");
        assertThat(distinct(dates)).isEqualTo(9);
        assertThat(gaps).containsOnly("\n  ");
        assertThat(distinct(gaps)).isEqualTo(1);
        assertThat(distinct(codes)).isEqualTo(1);
    }

    @Test
    void askingForAttributesGivesAnElementWithoutSomeNone() {
        Element all = Xml.parse("<a><b/><c d='1' xmlns:x='urn:x' x:e='2'/></a>", "all", XmlLimits.MESSAGE)
                .getDocumentElement();

        assertThat(Xml.attributes(Xml.children(all).get(0))).isEmpty();
        assertThat(Xml.attributes(Xml.children(all).get(1)))
                .extracting(Node::getNodeName)
                .containsExactlyInAnyOrder("d", "xmlns:x", "x:e");
    }

    private static long distinct(List<String> texts) {
        return texts.stream().map(System::identityHashCode).distinct().count();
    }
}
