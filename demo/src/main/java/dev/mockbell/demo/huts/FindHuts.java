package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlSchemaType;
import jakarta.xml.bind.annotation.XmlType;
import javax.xml.datatype.XMLGregorianCalendar;

/** Asks for huts. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "FindHuts")
@XmlType(
        name = "",
        propOrder = {"area", "from", "to"})
public final class FindHuts {
    public String area;

    @XmlSchemaType(name = "date")
    @XmlElement(required = true)
    public XMLGregorianCalendar from;

    @XmlSchemaType(name = "date")
    public XMLGregorianCalendar to;
}
