package dev.mockbell.validation;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.sheet.Sheets;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import org.junit.jupiter.api.Test;

class FitTest {
    private final MessageOutline outline = Sheets.outline(
            Sheets.root(
                    "<xs:element name='hutId' type='xs:string'/><xs:element name='nights'><xs:simpleType><xs:restriction base='xs:int'><xs:maxInclusive value='14'/></xs:restriction></xs:simpleType></xs:element><xs:element name='guest' maxOccurs='9'><xs:complexType><xs:sequence><xs:element name='fullName' type='xs:string'/></xs:sequence><xs:attribute name='age' type='xs:int' use='required'/></xs:complexType></xs:element>"));

    private Fit fit(String payload) {
        Fit fit = Fit.of(outline, payload);
        if (!fit.steps().isEmpty()) {
            assertThat(new MessageValidator(outline.schemas())
                            .validate(outline, Xml.parse(fit.proposal(), "m", XmlLimits.MESSAGE)))
                    .as("%s%n%s", fit.steps(), fit.proposal())
                    .isEmpty();
        }
        return fit;
    }

    @Test
    void aMessageThatFitsIsLeftAlone() {
        String good =
                "<Root xmlns='urn:t'><hutId>A</hutId><nights>2</nights><guest age='3'><fullName>I</fullName></guest></Root>";
        assertThat(fit(good).isGood()).isTrue();
        assertThat(fit(good).proposal()).isEqualTo(good);
    }

    @Test
    void namesThatWereChangedAreChangedAndValuesKept() {
        Fit fit = fit(
                "<t:Root xmlns:t='urn:t'><t:hut>NF-07</t:hut><!-- mine --><t:nights>2</t:nights><t:guest age='3'><t:name>Ines</t:name></t:guest></t:Root>");
        assertThat(fit.misfits())
                .anyMatch(m -> m.toString().contains("/Root/hut:"))
                .anyMatch(m -> m.path().contains("hutId"));
        assertThat(fit.steps()).contains("/Root/hut becomes hutId", "/Root/guest/name becomes fullName");
        assertThat(fit.proposal())
                .contains("<t:hutId>NF-07</t:hutId>", "<t:fullName>Ines</t:fullName>", "<!-- mine -->");
    }

    @Test
    void whatBecameRequiredComesInAndWhatIsGoneGoes() {
        Fit fit = fit(
                "<t:Root xmlns:t='urn:t'><t:hutId>NF-07</t:hutId><t:nights>2</t:nights><t:boots>42</t:boots><t:guest><t:fullName>I</t:fullName></t:guest></t:Root>");
        assertThat(fit.steps())
                .anyMatch(s -> s.startsWith("/Root/boots is taken out"))
                .anyMatch(s -> s.contains("@age is put in"));
    }

    @Test
    void aNewNamespaceOrRootIsTakenOver() {
        Fit fit = fit(
                "<Old xmlns='urn:t:v1'><hutId>A</hutId><nights>2</nights><guest age='3'><fullName>I</fullName></guest></Old>");
        assertThat(fit.steps()).contains("the namespace urn:t:v1 becomes urn:t", "Old becomes Root");
        assertThat(fit.proposal()).startsWith("<Root xmlns=\"urn:t\">");
    }

    @Test
    void aValueIsToldOfButOnlyAPersonCanChangeIt() {
        Fit fit = Fit.of(
                outline,
                "<Root xmlns='urn:t'><hutId>A</hutId><nights>99</nights><guest age='3'><fullName>I</fullName></guest></Root>");
        assertThat(fit.misfits()).singleElement().asString().contains("/Root/nights: “99” is more than 14");
        assertThat(fit.steps()).isEmpty();
        assertThat(fit.proposal()).contains(">99<");
    }

    @Test
    void whatIsNotWellFormedDoesNotFitAndStaysAsItIs() {
        Fit fit = Fit.of(outline, "<Root");
        assertThat(fit.misfits()).singleElement().asString().contains("not well-formed");
        assertThat(fit.proposal()).isEqualTo("<Root");
    }
}
