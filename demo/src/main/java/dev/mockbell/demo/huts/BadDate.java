package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlSchemaType;
import jakarta.xml.bind.annotation.XmlType;
import javax.xml.datatype.XMLGregorianCalendar;

/** The date will not do. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "BadDate")
@XmlType(
        name = "",
        propOrder = {"date", "why"})
public final class BadDate {
    @XmlSchemaType(name = "date")
    @XmlElement(required = true)
    public XMLGregorianCalendar date;

    @XmlElement(required = true)
    public String why;
}
