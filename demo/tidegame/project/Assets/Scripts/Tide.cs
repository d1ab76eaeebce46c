using UnityEngine;

public class Tide : MonoBehaviour
{
    void Start()
    {
        Quaymap.Show("harbour");
    }

    public void OpenMap()
    {
        Quaymap.Show("map");
    }
}
