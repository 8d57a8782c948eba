package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Where paths lead in a message that has little in it. */
class ReachTest {
    private final Sheet sheet = Sheets.sheet(
            Sheets.root(
                            "<xs:element name='guest' maxOccurs='3'><xs:complexType><xs:sequence><xs:element name='name' type='xs:string'/></xs:sequence><xs:attribute name='age' type='xs:int'/></xs:complexType></xs:element>"
                                    + "<xs:sequence minOccurs='0' maxOccurs='2'><xs:element name='from' type='xs:string'/><xs:element name='to' type='xs:string'/></xs:sequence>"
                                    + "<xs:choice minOccurs='0'><xs:element name='phone' type='xs:string'/><xs:choice><xs:element name='mail' type='xs:string'/><xs:sequence><xs:element name='street' type='xs:string'/><xs:element name='town' type='xs:string' minOccurs='0'/></xs:sequence></xs:choice></xs:choice>"
                                    + "<xs:element ref='t:extra' minOccurs='0'/>")
                    + "<xs:element name='extra' type='xs:string'/><xs:element name='sauna' type='xs:string' substitutionGroup='t:extra'/>",
            "<t:Root xmlns:t='urn:t'><t:guest><t:name>Ines</t:name></t:guest></t:Root>");

    private String set(String path) {
        sheet.setValue(sheet.ensure(path).orElseThrow(), "!");
        return Sheets.tight(sheet).replaceAll("</?t:Root[^>]*>", "").replace("t:", "");
    }

    @Test
    void whatStandsIsFoundWithOrWithoutPrefixesAndPositions() {
        assertThat(set("/t:Root/t:guest[1]/t:name")).isEqualTo("<guest><name>!</name></guest>");
        assertThat(set("Root/guest/@age")).isEqualTo("<guest age=\"!\"><name>!</name></guest>");
    }

    @Test
    void oneMoreRepeatComesWithThoseBeforeItAsFarAsTheContractAllows() {
        assertThat(set("/Root/guest[3]/name")).contains("Ines").contains("!").containsPattern("(<guest>.*){3}");
        assertThat(Sheets.breaches(sheet)).isEmpty();
        String before = sheet.text();
        assertThat(sheet.ensure("/Root/guest[4]/name")).isEmpty();
        assertThat(sheet.text()).isEqualTo(before);
    }

    @Test
    void aGroupComesWholeAndASecondTime() {
        assertThat(set("/Root/to")).contains("<from>from</from><to>!</to>");
        assertThat(set("/Root/from[2]")).containsPattern("<from>from</from><to>!</to><from>!</from><to>[^<]*</to>");
        assertThat(Sheets.breaches(sheet)).isEmpty();
    }

    @Test
    void aBranchWithinABranchIsTakenAndAnotherInItsPlace() {
        assertThat(set("/Root/town")).contains("<street>street</street><town>!</town>");
        assertThat(set("/Root/phone")).contains("<phone>!</phone>").doesNotContain("street");
        assertThat(set("/Root/mail")).contains("<mail>!</mail>").doesNotContain("phone");
        assertThat(Sheets.breaches(sheet)).isEmpty();
    }

    @Test
    void anElementThatSubstitutesStandsForTheOther() {
        assertThat(set("/Root/sauna")).endsWith("<sauna>!</sauna>");
        assertThat(set("/Root/extra")).endsWith("<extra>!</extra>").doesNotContain("sauna");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "/Other/guest",
                "/Root/boat",
                "/Root/guest[0]/name",
                "/Root/guest[x]/name",
                "/Root/guest[999999999]/name",
                "/Root/guest/@shoe",
                "/Root/to[3]",
                "",
                "/",
                "[["
            })
    void aPathThatLeadsNowhereChangesNothing(String path) {
        String before = sheet.text();
        assertThat(sheet.ensure(path)).isEmpty();
        assertThat(sheet.text().replaceAll("\\s", ""))
                .startsWith(before.replaceAll("\\s", "").substring(0, 20));
    }
}
