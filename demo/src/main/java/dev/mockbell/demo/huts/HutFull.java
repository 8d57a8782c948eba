package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlSchemaType;
import jakarta.xml.bind.annotation.XmlType;
import javax.xml.datatype.XMLGregorianCalendar;

/** There are not enough bunks. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "HutFull")
@XmlType(
        name = "",
        propOrder = {"hutId", "bunksLeft", "nextFree"})
public final class HutFull {
    @XmlElement(required = true)
    public String hutId;

    public int bunksLeft;

    @XmlSchemaType(name = "date")
    public XMLGregorianCalendar nextFree;
}
