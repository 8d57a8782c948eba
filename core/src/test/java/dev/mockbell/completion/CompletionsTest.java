package dev.mockbell.completion;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.completion.Completions.Proposal;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sheet.Sheets;
import java.util.List;
import org.junit.jupiter.api.Test;

class CompletionsTest {
    private final MessageOutline outline = Sheets.outline(
            Sheets.root(
                    "<xs:element name='hut' type='xs:string'/><xs:element name='board'><xs:simpleType><xs:restriction base='xs:string'><xs:enumeration value='HALF'/><xs:enumeration value='FULL'/></xs:restriction></xs:simpleType></xs:element><xs:element name='guest'><xs:complexType><xs:sequence><xs:element name='name' type='xs:string'/></xs:sequence><xs:attribute name='member' type='xs:boolean'/><xs:attribute name='age' type='xs:int' use='required'/></xs:complexType></xs:element>"));

    /** Labels at the bar. */
    private List<String> at(String text) {
        return labels(outline, text);
    }

    private String taken(String text, String label) {
        int offset = text.indexOf('|');
        String plain = text.replace("|", "");
        Completions.At at = Completions.at(outline, plain, offset);
        Proposal proposal = at.proposals().stream()
                .filter(p -> p.label().equals(label))
                .findFirst()
                .orElseThrow();
        String before = plain.substring(0, at.from()) + proposal.text();
        int caret = at.from() + proposal.caret();
        return before.substring(0, caret) + "|" + before.substring(caret) + plain.substring(offset);
    }

    @Test
    void elementsAreThoseOfTheContractWithThePrefixesOfTheMessage() {
        assertThat(at("<t:Root xmlns:t='urn:t'><|")).containsExactly("t:hut", "t:board", "t:guest");
        assertThat(at("<Root xmlns='urn:t'><|")).containsExactly("hut", "board", "guest");
        assertThat(at("<t:Root xmlns:t='urn:t'><t:gu|</t:Root>")).containsExactly("t:guest");
        assertThat(at("<t:Root xmlns:t='urn:t'><bo|")).containsExactly("t:board");
        assertThat(at("<t:Root xmlns:t='urn:t'><t:guest><|")).containsExactly("t:name");
        assertThat(at("<|")).containsExactly("t:Root");
    }

    @Test
    void anElementComesWithItsCloseTagAndTheCaretInside() {
        assertThat(taken("<t:Root xmlns:t='urn:t'><t:h|</t:Root>", "t:hut"))
                .isEqualTo("<t:Root xmlns:t='urn:t'><t:hut>|</t:hut></t:Root>");
    }

    @Test
    void attributesAreThoseThatAreNotThereYet() {
        assertThat(at("<t:Root xmlns:t='urn:t'><t:guest |")).containsExactly("member", "age");
        assertThat(at("<t:Root xmlns:t='urn:t'><t:guest age=\"1\" m|>")).containsExactly("member");
        assertThat(taken("<t:Root xmlns:t='urn:t'><t:guest a|", "age"))
                .isEqualTo("<t:Root xmlns:t='urn:t'><t:guest age=\"|\"");
    }

    @Test
    void valuesAreThoseOfTheEnumeration() {
        assertThat(at("<t:Root xmlns:t='urn:t'><t:board>|</t:board>")).containsExactly("HALF", "FULL");
        assertThat(at("<t:Root xmlns:t='urn:t'><t:board>fu|</t:board>")).containsExactly("FULL");
        assertThat(at("<t:Root xmlns:t='urn:t'><t:guest member=\"|\"/>")).containsExactly("true", "false");
        assertThat(at("<t:Root xmlns:t='urn:t'><t:hut>|")).isEmpty();
    }

    @Test
    void aCloseTagIsThatOfTheInnermostOpenElement() {
        assertThat(at("<t:Root xmlns:t='urn:t'><t:guest></|")).containsExactly("/t:guest");
    }

    @Test
    void withinAnEnvelopeTheBodyHoldsTheRoot() {
        String envelope = "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/' xmlns:t='urn:t'><e:Body>";
        assertThat(at(envelope + "<|")).containsExactly("t:Root");
        assertThat(at(envelope + "<t:Root><|")).containsExactly("t:hut", "t:board", "t:guest");
    }

    @Test
    void nowhereKnownGivesNothing() {
        assertThat(at("<x><y><|")).isEmpty();
        assertThat(at("|")).isEmpty();
        assertThat(at("<!-- <|")).isEmpty();
    }

    @Test
    void aTypeThatAnElementSaysItHasIsFollowed() {
        MessageOutline stays = Sheets.outline(
                "<xs:element name='Root'><xs:complexType><xs:sequence>"
                        + "<xs:element name='stay' type='t:Stay' nillable='true'/></xs:sequence></xs:complexType></xs:element>"
                        + "<xs:complexType name='Stay' abstract='true'><xs:sequence><xs:element name='hut' type='xs:string'/></xs:sequence></xs:complexType>"
                        + "<xs:complexType name='Winter'><xs:complexContent><xs:extension base='t:Stay'><xs:sequence><xs:element name='stove' type='xs:boolean'/></xs:sequence><xs:attribute name='wood' type='xs:int'/></xs:extension></xs:complexContent></xs:complexType>"
                        + "<xs:complexType name='Summer'><xs:complexContent><xs:extension base='t:Stay'/></xs:complexContent></xs:complexType>");
        String start = "<t:Root xmlns:t='urn:t' xmlns:i='http://www.w3.org/2001/XMLSchema-instance'><t:stay";
        assertThat(labels(stays, start + "><|")).containsExactly("t:hut");
        assertThat(labels(stays, start + " i:type='t:Winter'><|")).containsExactly("t:hut", "t:stove");
        assertThat(labels(stays, start + " i:type='t:Winter'><t:stove>|")).containsExactly("true", "false");
        assertThat(labels(stays, start + " i:type='t:Winter' |")).containsExactly("wood", "i:nil");
        assertThat(labels(stays, start + " |")).containsExactly("i:type", "i:nil");
        assertThat(labels(stays, start + " i:type=\"|\"")).containsExactly("t:Winter", "t:Summer");
        assertThat(labels(stays, start + " i:nil='|'")).containsExactly("true", "false");
        assertThat(labels(stays, start + " other:type='t:Winter'><|")).containsExactly("t:hut");
        String bare = "<t:Root xmlns:t='urn:t'><t:stay ";
        assertThat(Completions.at(stays, bare, bare.length()).proposals().get(0).text())
                .isEqualTo("xmlns:xsi=\"http://www.w3.org/2001/XMLSchema-instance\" xsi:type=\"\"");
    }

    private static List<String> labels(MessageOutline outline, String text) {
        int offset = text.indexOf('|');
        return Completions.at(outline, text.replace("|", ""), offset).proposals().stream()
                .map(Proposal::label)
                .toList();
    }
}
