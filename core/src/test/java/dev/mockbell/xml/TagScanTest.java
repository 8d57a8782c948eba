package dev.mockbell.xml;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.xml.TagScan.Kind;
import dev.mockbell.xml.TagScan.Tag;
import java.util.Random;
import org.junit.jupiter.api.Test;

class TagScanTest {
    private static String pairs(String text) {
        StringBuilder out = new StringBuilder();
        for (Tag tag : TagScan.of(text).tags()) {
            out.append(tag.kind() == Kind.CLOSE ? "/" : "")
                    .append(tag.name())
                    .append(tag.partner())
                    .append(' ');
        }
        return out.toString().strip();
    }

    @Test
    void tagsFindTheirPartners() {
        assertThat(pairs("<a><b x='>'/><c>1</c></a>")).isEqualTo("a4 b1 c3 /c2 /a0");
    }

    @Test
    void commentsSectionsAndInstructionsHoldNoTags() {
        assertThat(pairs("<a><!-- <b> --><![CDATA[<c>]]><?p <d> ?></a>")).isEqualTo("a1 /a0");
    }

    @Test
    void whatIsNotFinishedIsReadAsFarAsItGoes() {
        assertThat(pairs("<a><b></a>")).isEqualTo("a2 b-1 /a0");
        assertThat(pairs("<a><b att=\"x<c/></a>")).isEqualTo("a3 b-1 c2 /a0");
        assertThat(pairs("</x><a")).isEqualTo("/x-1 a-1");
        assertThat(pairs("1 < 2 <= 3")).isEmpty();
    }

    @Test
    void theElementsAroundAPlaceAreThoseThatAreOpenThere() {
        String text = "<a><b>1</b><c><d";
        assertThat(TagScan.of(text).openAt(text.indexOf("<d")))
                .extracting(Tag::name)
                .containsExactly("a", "c");
        assertThat(TagScan.of(text).openAt(text.indexOf("1")))
                .extracting(Tag::name)
                .containsExactly("a", "b");
    }

    @Test
    void aTagIsFoundByAnyOffsetInIt() {
        TagScan scan = TagScan.of("<a>text</a>");
        assertThat(scan.at(1).orElseThrow().kind()).isEqualTo(Kind.OPEN);
        assertThat(scan.at(8).orElseThrow().kind()).isEqualTo(Kind.CLOSE);
        assertThat(scan.at(5)).isEmpty();
    }

    @Test
    void anyTextAtAllIsScanned() {
        Random random = new Random(5);
        String pieces = "<>/='\" ab:-![]CDATA?{}\n";
        for (int i = 0; i < 3_000; i++) {
            StringBuilder text = new StringBuilder();
            for (int j = random.nextInt(60); j > 0; j--) {
                text.append(pieces.charAt(random.nextInt(pieces.length())));
            }
            TagScan scan = TagScan.of(text.toString());
            for (Tag tag : scan.tags()) {
                assertThat(tag.start()).isLessThan(tag.end());
                assertThat(tag.end()).isLessThanOrEqualTo(text.length());
                scan.partner(tag).ifPresent(p -> assertThat(p.name()).isEqualTo(tag.name()));
            }
            assertThat(scan.openAt(text.length())).isNotNull();
        }
    }

    @Test
    void thePathOfWhereOneIsHasPositionsWhereLikeStandsBeside() {
        String text = "<!-- in front --><s:a xmlns:s='u'><b/><c><d>1</d></c><c><d>2</d><e/></c></s:a>";
        TagScan scan = TagScan.of(text);
        assertThat(scan.pathAt(text.indexOf("1<"))).contains("/a/c[1]/d");
        assertThat(scan.pathAt(text.indexOf("2<"))).contains("/a/c[2]/d");
        assertThat(scan.pathAt(text.indexOf("<e/>") + 1)).contains("/a/c[2]/e");
        assertThat(scan.pathAt(text.indexOf("<b/>") + 1)).contains("/a/b");
        assertThat(scan.pathAt(0)).isEmpty();
        assertThat(TagScan.of("<a><b>").pathAt(5)).isEmpty();
    }
}
